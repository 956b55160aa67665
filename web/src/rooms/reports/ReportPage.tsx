import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { LikingCurve } from '../../charts/verdict/LikingCurve';
import { Loaded } from '../../ui/Loading';
import { pairingQuery } from '../verdicts/queries';
import { reportQuery } from './queries';
import classes from './Report.module.css';
import { ReportPaper } from './ReportPaper';
import { ShareVerdict } from './ShareVerdict';

/** A trial on one or two pages, as it is printed. */
export function ReportPage() {
  const { id = '' } = useParams();
  const report = useQuery(reportQuery(id));
  return (
    <Loaded query={report}>
      {(r) => (
        <div className={classes.whole}>
          <div className={classes.tools}>
            <Button onClick={() => window.print()}>Print</Button>
            <Button
              component="a"
              variant="default"
              href={`/api/v1/trials/${id}/report.pdf`}
              download={`trial-${r.number}.pdf`}
            >
              PDF
            </Button>
            <Button
              component="a"
              variant="default"
              href={`/api/v1/trials/${id}/report.md`}
              download={`trial-${r.number}.md`}
            >
              Markdown
            </Button>
            <Button
              component="a"
              variant="default"
              href={`/api/v1/trials/${id}/report.html`}
              download={`trial-${r.number}.html`}
            >
              Page
            </Button>
            <Button
              component="a"
              variant="default"
              href={`/api/v1/trials/${id}/scores.csv`}
              download={`trial-${r.number}-scores.csv`}
            >
              Scores, CSV
            </Button>
            <Button
              component="a"
              variant="default"
              href={`/api/v1/trials/${id}/scores.parquet`}
              download={`trial-${r.number}-scores.parquet`}
            >
              Scores, Parquet
            </Button>
            <a href="/api/v1/scores-dictionary.csv" download="scores-dictionary.csv">
              What its columns hold
            </a>
            {r.headline && <ShareVerdict trialId={id} />}
            <Link to={`/trials/${id}/verdict`}>Back to the verdict</Link>
          </div>
          <ReportPaper report={r} peaks={<Peaks trialId={id} />} />
        </div>
      )}
    </Loaded>
  );
}

/** The curves that say something of a peak. */
function Peaks({ trialId }: { trialId: string }) {
  const { data } = useQuery(pairingQuery(trialId, 'liking'));
  const curves = data?.curves.filter((c) => c.kind === 'peak' || c.kind === 'no_peak') ?? [];
  if (!curves.length) return null;
  return (
    <section className={classes.peaks} aria-label="Liking against what was measured">
      {curves.slice(0, 2).map((c) => (
        <div key={c.measure + c.group}>
          <LikingCurve curve={c} attribute="Liking" />
          <p className="small">
            {c.group && <b>{c.group}: </b>}
            {c.text}
          </p>
        </div>
      ))}
    </section>
  );
}
