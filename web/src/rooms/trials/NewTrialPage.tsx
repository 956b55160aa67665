import { useNavigate } from 'react-router';
import { AskForm } from './AskForm';
import { ask } from './queries';
import classes from './TrialsPage.module.css';

/** The first station of a trial that does not exist yet. */
export function NewTrialPage() {
  const navigate = useNavigate();
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <div>
          <h1>Ask a question</h1>
        </div>
      </header>
      <AskForm verb="Create trial" send={ask} onDone={(trial) => navigate(`/trials/${trial.id}/set-up`)} />
    </main>
  );
}
