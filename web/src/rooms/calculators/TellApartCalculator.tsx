import { Select } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '../../api/client';
import { TEST_METHODS } from '../../api/vocabulary';
import { fixed, percent, plural } from '../../ui/numbers';
import classes from './Calculators.module.css';
import { CalcField, Line, Outcome, useNumbers } from './parts';
import { discriminationPlanQuery, discriminationQuery } from './queries';

type Method = Schemas['DiscriminationBody']['method'];

const METHODS = TEST_METHODS.filter((m) => m.guess_rate !== null).map((m) => ({
  value: m.code as Method,
  label: `${m.label}. ${m.about}`,
}));
const HALF_TELL = 0.4;

/** Is there any difference at all? So many right of so many trials. */
export function TellApartCalculator() {
  const [method, setMethod] = useState<Method>('triangle');
  const form = useNumbers({ n: '', correct: '' });
  const { n, correct } = form.values;
  const ready = n !== undefined && correct !== undefined && !form.bad.length;
  const [body] = useDebouncedValue(ready ? { method, n, correct, alpha: 0.05 } : null, 150);
  const { data, error } = useQuery(discriminationQuery(body));
  const { data: plan } = useQuery(
    discriminationPlanQuery({ method, distinguishers: HALF_TELL, alpha: 0.05, power: 0.8 }),
  );
  const field = { form, error };
  return (
    <>
      <Select
        label="Test"
        mb={10}
        allowDeselect={false}
        data={METHODS}
        value={method}
        onChange={(v) => setMethod(v as Method)}
      />
      <div className={classes.fields}>
        <CalcField {...field} name="n" label="Trials" unit="" />
        <CalcField {...field} name="correct" label="Right" unit="" />
      </div>
      <Outcome error={body && error} fields={['n', 'correct']} waiting={plan ? needs(plan) : 'Give both.'}>
        {body && data && (
          <>
            <p>{data.text}</p>
            <Line name="So many right by luck, p">{data.p_value < 0.001 ? '< 0.001' : fixed(data.p_value, 3)}</Line>
            <Line name="Least right to show a difference">{data.min_correct ?? 'not with so few'}</Line>
            <Line name="Can tell them apart">
              {percent(data.distinguishers)} ({percent(data.distinguishers_interval[0])} to{' '}
              {percent(data.distinguishers_interval[1])})
            </Line>
            <Line name="d′">
              {data.d_prime === null ? 'beyond measure' : fixed(data.d_prime)} ({fixed(data.d_prime_interval[0])} to{' '}
              {data.d_prime_interval[1] === null ? 'no bound' : fixed(data.d_prime_interval[1])})
            </Line>
            <p className="quiet small">
              Trials of one taster are not independent: with repeats this speaks of those tasters.
            </p>
          </>
        )}
      </Outcome>
    </>
  );
}

function needs(p: Schemas['DiscriminationPlanAnswer']): string {
  if (p.n === null) return 'Give both.';
  return `If four in ten can really tell, ${plural(p.n, 'trial')} with ${p.min_correct} right would show it 8 times in 10.`;
}
