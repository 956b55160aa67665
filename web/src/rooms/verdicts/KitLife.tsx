import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { NumberField, numberOf, shownAtField, useForm } from '../../ui/fields';
import { useSend } from '../../ui/useSend';
import { benchQuery, editBench } from '../bench/queries';
import classes from './Verdict.module.css';

/** How long kit that lasts is counted on: of the whole bench. */
export function KitLife({ years, cups }: { years: number; cups: number }) {
  const { data: bench } = useQuery(benchQuery);
  const form = useForm({ kit_lasts_years: String(years), cups_a_day: String(cups) });
  const save = useSend(
    () =>
      editBench(bench!.rev, {
        kit_lasts_years: numberOf('kit_lasts_years', form.values.kit_lasts_years) ?? years,
        cups_a_day: numberOf('cups_a_day', form.values.cups_a_day) ?? cups,
      }),
    { onTrouble: shownAtField(form.setRefused) },
  );
  const field = (name: 'kit_lasts_years' | 'cups_a_day', label: string) => (
    <NumberField
      label={label}
      value={form.values[name]}
      onText={(text) => form.set(name, text)}
      error={form.refused?.at(name)}
    />
  );
  return (
    <form
      className={classes.kitLife}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      {field('kit_lasts_years', 'Kit lasts, years')}
      {field('cups_a_day', 'Cups a day')}
      <Button type="submit" variant="default" disabled={!bench} loading={save.isPending}>
        Count again
      </Button>
    </form>
  );
}
