import { Button, SegmentedControl, TextInput } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Units } from '../../ui/units';
import { useSend } from '../../ui/useSend';
import { editUnits, sessionQuery } from '../bench/queries';
import classes from './Instruments.module.css';

/** In what units this bench thinks. It changes what is shown and typed, on paper and phones too; nothing that is stored. */
export function UnitsCard() {
  const { data } = useQuery(sessionQuery);
  return data ? <Choices units={data.units} /> : null;
}

const HEAT = [
  { value: 'C', label: '°C' },
  { value: 'F', label: '°F' },
];
const RATIO = [
  { value: 'to_one', label: '1:16' },
  { value: 'per_100', label: '6.25 g per 100 g' },
];
const BAGS = [
  { value: 'g', label: '250 g' },
  { value: 'oz', label: '250 g (8.8 oz)' },
];

function Choices({ units }: { units: Units }) {
  const client = useQueryClient();
  const [currency, setCurrency] = useState(units.currency);
  const save = useSend(editUnits, { onDone: () => client.invalidateQueries() });
  const choose = (change: Partial<Units>) => save.mutate({ ...units, ...change });
  const choice = <K extends 'heat' | 'ratio' | 'bags'>(name: K, label: string, data: typeof HEAT) => (
    <div className={classes.choice}>
      <span id={`units-${name}`}>{label}</span>
      <SegmentedControl
        aria-labelledby={`units-${name}`}
        data={data}
        value={units[name]}
        onChange={(value) => choose({ [name]: value as Units[K] })}
      />
    </div>
  );
  return (
    <section className="card" aria-labelledby="units">
      <h2 id="units">Units</h2>
      <p className="quiet small">For every screen, sentence and sheet of paper. Brews are weighed in grams.</p>
      {choice('heat', 'Temperatures', HEAT)}
      {choice('ratio', 'Ratios', RATIO)}
      {choice('bags', 'Bags of coffee', BAGS)}
      <form
        className={classes.choice}
        onSubmit={(e) => {
          e.preventDefault();
          choose({ currency: currency.trim() });
        }}
      >
        <label htmlFor="currency">Currency sign</label>
        <span className={classes.currency}>
          <TextInput
            id="currency"
            placeholder="€"
            maxLength={4}
            value={currency}
            onChange={(e) => setCurrency(e.currentTarget.value)}
          />
          <Button type="submit" variant="default" disabled={currency.trim() === units.currency}>
            Save
          </Button>
        </span>
      </form>
    </section>
  );
}
