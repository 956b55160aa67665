import { Button, SegmentedControl, TextInput } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { shownAtField, useForm } from '../../ui/fields';
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
  const form = useForm<Units>({ ...units });
  const save = useSend(() => editUnits({ ...(form.values as Units), currency: form.values.currency.trim() }), {
    onDone: () => client.invalidateQueries(),
    onTrouble: shownAtField(form.setRefused),
  });
  const changed = NAMES.some((name) => form.values[name].trim() !== units[name]);
  const choice = (name: 'heat' | 'ratio' | 'bags', label: string, data: typeof HEAT) => (
    <div className={classes.choice}>
      <span id={`units-${name}`}>{label}</span>
      <SegmentedControl
        aria-labelledby={`units-${name}`}
        data={data}
        value={form.values[name]}
        onChange={(value) => form.set(name, value as Units[typeof name])}
      />
    </div>
  );
  return (
    <section className="card" aria-labelledby="units">
      <h2 id="units">Units</h2>
      <p className="quiet small">For every screen, sentence and sheet of paper. Brews are weighed in grams.</p>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        {choice('heat', 'Temperatures', HEAT)}
        {choice('ratio', 'Ratios', RATIO)}
        {choice('bags', 'Bags of coffee', BAGS)}
        <div className={classes.choice}>
          <label htmlFor="currency">Currency sign</label>
          <TextInput
            id="currency"
            w={90}
            placeholder="€"
            maxLength={4}
            value={form.values.currency}
            onChange={(e) => form.set('currency', e.currentTarget.value)}
            error={form.refused?.at('currency')}
          />
        </div>
        <Button type="submit" loading={save.isPending} disabled={!changed}>
          Save units
        </Button>
      </form>
    </section>
  );
}

const NAMES = ['heat', 'ratio', 'bags', 'currency'] as const;
