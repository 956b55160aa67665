import { clock, fixed, plural } from '../../ui/numbers';
import type { Checked } from './queries';
import classes from './Recipes.module.css';

/** What the cup will be, as far as this brewer's own history says; and what can hurt on the way. */
export function Outlook({ checked }: { checked: Checked }) {
  const o = checked.outlook;
  return (
    <section>
      <h2>To expect</h2>
      <dl className={classes.facts}>
        <Fact name="Whole brew" value={`about ${clock(checked.total_s)}`} />
        {o && <Fact name="In the cup" value={`${fixed(o.beverage_g, 0)} g`} />}
        {o?.tds_range_pct && (
          <Fact name="Strength" value={`${fixed(o.tds_range_pct[0], 2)}–${fixed(o.tds_range_pct[1], 2)} % TDS`} />
        )}
        {o?.ey_range_pct && (
          <Fact name={o.yield_basis_label} value={`${fixed(o.ey_range_pct[0], 1)}–${fixed(o.ey_range_pct[1], 1)} %`} />
        )}
      </dl>
      {o && (
        <p className="small quiet">
          {o.tds_range_pct
            ? `95 % of ${plural(o.brews, 'own brew')} with this brewer.`
            : `Predictions of strength and yield start after three brews with one brewer; until then ${fixed(o.retained_water_ratio, 1)} g/g retained by the grounds is assumed.`}
        </p>
      )}
      <ul className={classes.cautions} aria-label="Cautions">
        {checked.cautions.map((c) => (
          <li key={c.code}>
            {c.steps.length > 0 && <b>{stepsNamed(c.steps)}: </b>}
            {c.text}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** "Step 3", "Steps 2, 4". */
const stepsNamed = (steps: number[]) => `${steps.length > 1 ? 'Steps' : 'Step'} ${steps.map((i) => i + 1).join(', ')}`;

function Fact({ name, value }: { name: string; value: string }) {
  return (
    <div>
      <dt>{name}</dt>
      <dd className="num">{value}</dd>
    </div>
  );
}
