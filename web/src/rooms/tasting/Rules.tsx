import { heat, scaldsAbove } from '../../ui/units';
import type { Sheet } from './queries';
import classes from './Sheet.module.css';

/** What to mind, before the first cup. */
export function Rules({ sheet }: { sheet: Sheet }) {
  return (
    <ul className={classes.rules}>
      <li>
        Taste in the order below.{' '}
        {sheet.cleanser
          ? 'Water or a plain cracker, and a rest, between cups.'
          : 'There is no cleanser today: rest between cups.'}
      </li>
      <li>No talking before the scores lock. Try not to look at the colour if you can.</li>
      <li>
        {sheet.cup_temperature_c ? `Cups were read at ${heat(Number(sheet.cup_temperature_c))}. ` : ''}Hot liquid
        scalds: taste below {scaldsAbove()}. Spit if you like, with your own cup and spoon. Tell the host of allergies.
      </li>
    </ul>
  );
}
