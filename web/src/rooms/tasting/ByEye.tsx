import classes from './Sheet.module.css';

/** Whether a cup's look gave it away: said by the taster, weighed as a caveat. */
export function ByEye({ what, told, onTell }: { what: string; told: boolean; onTell: (told: boolean) => void }) {
  return (
    <label className={classes.byEye}>
      <input type="checkbox" checked={told} onChange={(e) => onTell(e.currentTarget.checked)} />I recognised {what} by
      sight
    </label>
  );
}
