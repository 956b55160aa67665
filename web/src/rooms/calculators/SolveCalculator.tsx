import { SegmentedControl } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '../../api/client';
import { yieldOptions } from '../../api/words';
import { fixed } from '../../ui/numbers';
import { ratio } from '../../ui/units';
import classes from './Calculators.module.css';
import { CalcField, Line, Outcome, useNumbers } from './parts';
import { solveQuery } from './queries';

type YieldBasis = Schemas['SolveBody']['yield_basis'];

export function SolveCalculator() {
  const form = useNumbers({
    tds_pct: '',
    ey_pct: '',
    dose_g: '',
    brew_water_g: '',
    brew_ratio: '',
    retained_water_ratio: '2.1',
  });
  const [yield_basis, setYieldBasis] = useState<NonNullable<YieldBasis>>('in_cup');
  const { retained_water_ratio, ...knowns } = form.values;
  const ready = Object.keys(knowns).length >= 3 && retained_water_ratio !== undefined && !form.bad.length;
  const [body] = useDebouncedValue(ready ? { ...knowns, retained_water_ratio, yield_basis } : null, 150);
  const { data, error } = useQuery(solveQuery(body));
  const field = { form, error };
  return (
    <>
      <p className="quiet small" style={{ marginBottom: 10 }}>
        Give any three that fix the cup, one of them a mass; the rest follows. No bypass.
      </p>
      <SegmentedControl
        fullWidth
        mb="sm"
        aria-label="Yield method"
        value={yield_basis}
        onChange={(value) => setYieldBasis(value as typeof yield_basis)}
        data={yieldOptions}
      />
      <div className={classes.fields}>
        <CalcField {...field} name="tds_pct" label="TDS" unit="%" />
        <CalcField {...field} name="ey_pct" label="Extraction yield" unit="%" />
        <CalcField {...field} name="dose_g" label="Dose" unit="g" />
        <CalcField {...field} name="brew_water_g" label="Brew water" unit="g" />
        <CalcField {...field} name="brew_ratio" label="Ratio, 1 to" unit="" />
        <CalcField {...field} name="retained_water_ratio" label="Water kept" unit="g/g" />
      </div>
      <Outcome
        error={body && error}
        fields={['tds_pct', 'ey_pct', 'dose_g', 'brew_water_g', 'brew_ratio', 'retained_water_ratio']}
        waiting="Give at least three."
      >
        {body && data && (
          <>
            <Line name="Dose">{fixed(data.dose_g)} g</Line>
            <Line name="Brew water">{fixed(data.brew_water_g, 1)} g</Line>
            <Line name="Brew ratio, water in">{ratio(data.brew_ratio)}</Line>
            <Line name="TDS">{fixed(data.tds_pct, 3)} %</Line>
            <Line name="Extraction yield">{fixed(data.ey_pct)} %</Line>
            <Line name="Beverage mass">{fixed(data.beverage_g, 1)} g</Line>
          </>
        )}
      </Outcome>
    </>
  );
}
