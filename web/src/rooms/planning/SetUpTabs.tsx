import { NavLink } from 'react-router';
import classes from './Plan.module.css';

/** Set up has three sheets: what is compared, what it costs and can tell, and the day in minutes. */
export function SetUpTabs({ trialId }: { trialId: string }) {
  const to = (path: string) => `/trials/${trialId}/set-up${path}`;
  return (
    <nav className={classes.tabs} aria-label="Set up">
      <NavLink end to={to('')}>
        Setups
      </NavLink>
      <NavLink to={to('/plan')}>Plan</NavLink>
      <NavLink to={to('/run-sheet')}>Run sheet</NavLink>
    </nav>
  );
}
