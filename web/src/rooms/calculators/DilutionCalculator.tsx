import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { fixed } from '../../ui/numbers';
import classes from './Calculators.module.css';
import { CalcField, Line, Outcome, useNumbers } from './parts';
import { dilutionQuery } from './queries';

export function DilutionCalculator() {
  const form = useNumbers({ beverage_g: '', tds_pct: '', target_tds_pct: '' });
  const { beverage_g, tds_pct, target_tds_pct } = form.values;
  const ready = beverage_g !== undefined && tds_pct !== undefined && target_tds_pct !== undefined && !form.bad.length;
  const [body] = useDebouncedValue(ready ? { beverage_g, tds_pct, target_tds_pct } : null, 150);
  const { data, error } = useQuery(dilutionQuery(body));
  const field = { form, error };
  return (
    <>
      <p className="quiet small" style={{ marginBottom: 10 }}>
        Water of the same temperature that brings a drink down to another strength. Yield does not change.
      </p>
      <div className={classes.fields}>
        <CalcField {...field} name="beverage_g" label="Beverage mass" unit="g" />
        <CalcField {...field} name="tds_pct" label="TDS now" unit="%" />
        <CalcField {...field} name="target_tds_pct" label="TDS wanted" unit="%" />
      </div>
      <Outcome error={body && error} fields={['beverage_g', 'tds_pct', 'target_tds_pct']} waiting="Give all three.">
        {body && data && (
          <>
            <Line name="Add water">{fixed(data.add_water_g, 1)} g</Line>
            <Line name="Then there is">{fixed(data.final_beverage_g, 1)} g</Line>
          </>
        )}
      </Outcome>
    </>
  );
}
