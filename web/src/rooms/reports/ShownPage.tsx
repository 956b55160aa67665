import { useQuery } from '@tanstack/react-query';
import { useParams } from 'react-router';
import { Loaded } from '../../ui/Loading';
import { useTitle } from '../../ui/title';
import { shownQuery } from './queries';
import classes from './Report.module.css';
import { ReportPaper } from './ReportPaper';

/** A verdict by its read-only link: the report, and nothing else of the bench. */
export function ShownPage() {
  const { token = '' } = useParams();
  const report = useQuery(shownQuery(token));
  useTitle(report.data?.question);
  return (
    <main className={classes.whole}>
      <Loaded query={report}>{(r) => <ReportPaper report={r} />}</Loaded>
    </main>
  );
}
