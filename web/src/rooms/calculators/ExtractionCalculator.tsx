import { Checkbox } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { fixed } from '../../ui/numbers';
import { ratio } from '../../ui/units';
import classes from './Calculators.module.css';
import { CalcField, Line, Outcome, useNumbers } from './parts';
import { extractionQuery } from './queries';

const FIELDS = ['dose_g', 'brew_water_g', 'beverage_g', 'bypass_g', 'tds_pct', 'moisture_pct'] as const;

export function ExtractionCalculator() {
  const form = useNumbers({
    dose_g: '',
    brew_water_g: '',
    beverage_g: '',
    bypass_g: '',
    tds_pct: '',
    moisture_pct: '',
  });
  const [concentrate, setConcentrate] = useState(false);
  const { dose_g, beverage_g, tds_pct, ...rest } = form.values;
  const ready = dose_g !== undefined && beverage_g !== undefined && tds_pct !== undefined && !form.bad.length;
  const [body] = useDebouncedValue(ready ? { dose_g, beverage_g, tds_pct, concentrate, ...rest } : null, 150);
  const { data, error } = useQuery(extractionQuery(body));
  const field = { form, error };
  return (
    <>
      <div className={classes.fields}>
        <CalcField {...field} name="dose_g" label="Dose" unit="g" />
        <CalcField {...field} name="brew_water_g" label="Brew water" unit="g" />
        <CalcField {...field} name="beverage_g" label="Beverage mass" unit="g" />
        <CalcField {...field} name="tds_pct" label="TDS" unit="%" />
        <CalcField {...field} name="bypass_g" label="Bypass water" unit="g" />
        <CalcField {...field} name="moisture_pct" label="Moisture" unit="%" />
      </div>
      <Checkbox
        my="sm"
        label="Concentrate (up to 25 % TDS)"
        checked={concentrate}
        onChange={(e) => setConcentrate(e.currentTarget.checked)}
      />
      <Outcome error={body && error} fields={[...FIELDS]} waiting="Give dose, beverage mass and TDS.">
        {body && data && (
          <>
            <Line name="In-cup yield">
              {fixed(data.ey_in_cup_pct)} % ({fixed(data.ey_in_cup_interval_pct[0], 1)} to{' '}
              {fixed(data.ey_in_cup_interval_pct[1], 1)})
            </Line>
            {data.ey_full_liquor_pct !== null && (
              <Line name="Full-liquor yield">{fixed(data.ey_full_liquor_pct)} %</Line>
            )}
            {data.brew_ratio !== null && <Line name="Brew ratio, water in">{ratio(data.brew_ratio)}</Line>}
            <Line name="Beverage ratio">{ratio(data.beverage_ratio)}</Line>
            {data.retained_water_ratio !== null && (
              <Line name="Water kept">{fixed(data.retained_water_ratio)} g/g</Line>
            )}
            {data.tds_undiluted_pct !== data.tds_pct && (
              <Line name="Before bypass">{fixed(data.tds_undiluted_pct)} % TDS</Line>
            )}
            {data.warnings.map((w) => (
              <p key={w.code} className="small">
                {w.text}
              </p>
            ))}
          </>
        )}
      </Outcome>
    </>
  );
}
