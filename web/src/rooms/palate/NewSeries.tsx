import { Button, MultiSelect, SegmentedControl, Select, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { PALATE_AXES } from '../../api/vocabulary';
import { FormModal } from '../../ui/FormModal';
import { localRefusal, NumberField, numberOf, shownAtField, useForm } from '../../ui/fields';
import { Restored } from '../../ui/Restored';
import { apartIn, apartUnit } from '../../ui/units';
import { useSend } from '../../ui/useSend';
import { peopleQuery } from '../people/queries';
import classes from './Palate.module.css';
import { makeSession, type Session, type SessionBody } from './queries';
import { stepsTyped } from './reading';

const START = {
  served: '',
  tds_pct: '',
  serve_g: '300',
  cup_g: '20',
  steps: '',
  axis: 'strength' as SessionBody['axis'],
  method: 'two_afc' as SessionBody['method'],
  choice: 'adaptive' as SessionBody['choice'],
  way: 'helper' as SessionBody['way'],
  taster_ids: [] as string[],
};

/** A series of known steps: what is served, how far apart, how it is asked, who answers. */
export function NewSeries({ onClose, onMade }: { onClose: () => void; onMade: (session: Session) => void }) {
  const { data: people = [] } = useQuery(peopleQuery);
  const form = useForm(START, 'palate-series');
  const { axis, method, choice, way, taster_ids: tasters } = form.values;
  const chosen = PALATE_AXES.find((a) => a.code === axis)!;
  const make = useSend(
    () => {
      const steps = stepsTyped(form.values.steps, chosen.unit);
      if (steps === null)
        throw localRefusal('steps', 'One of these steps is no number.', 'Enter numbers such as 2, 3, 4.5.');
      if (!tasters.length) throw localRefusal('taster_ids', 'Nobody is chosen.', 'Choose who answers.');
      return makeSession({
        axis,
        method,
        choice,
        way,
        served: form.values.served,
        tds_pct: numberOf('tds_pct', form.values.tds_pct),
        serve_g: numberOf('serve_g', form.values.serve_g) ?? 300,
        cup_g: numberOf('cup_g', form.values.cup_g) ?? 20,
        steps,
        taster_ids: tasters,
      });
    },
    {
      onDone: (made) => {
        form.forget();
        onMade(made);
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  const at = (name: string) => form.refused?.at(name);
  return (
    <FormModal title="New series" className={classes.form} onClose={onClose} onSend={() => make.mutate()}>
      <Restored form={form} />
      <Select
        label="What differs"
        allowDeselect={false}
        value={axis}
        onChange={(v) => form.set('axis', v as typeof axis)}
        data={PALATE_AXES.map((a) => ({ value: a.code, label: a.word }))}
      />
      <TextInput
        label="What is served"
        placeholder={axis === 'acidity' ? 'citric acid in water' : 'Long watch, Peru washed'}
        value={form.values.served}
        onChange={(e) => form.set('served', e.currentTarget.value)}
        error={at('served')}
        data-autofocus
      />
      {axis === 'strength' && (
        <NumberField
          label="Strength of the brew"
          unit="% TDS"
          description="Then steps are told in % TDS, too"
          value={form.values.tds_pct}
          onText={(t) => form.set('tds_pct', t)}
          error={at('tds_pct')}
        />
      )}
      <TextInput
        label={`Steps, ${apartUnit(chosen.unit)}`}
        placeholder={chosen.ready.map((step) => apartIn(step, chosen.unit)).join(', ')}
        description={axis === 'strength' ? 'How much weaker each cup is. Empty: the usual series.' : 'Empty: as shown.'}
        value={form.values.steps}
        onChange={(e) => form.set('steps', e.currentTarget.value)}
        error={at('steps')}
      />
      <div className={classes.pair}>
        <NumberField
          label="Each server holds"
          unit="g"
          value={form.values.serve_g}
          onText={(t) => form.set('serve_g', t)}
          error={at('serve_g')}
        />
        <NumberField
          label="Each cup holds"
          unit="g"
          value={form.values.cup_g}
          onText={(t) => form.set('cup_g', t)}
          error={at('cup_g')}
        />
      </div>
      <Choice
        label="How it is asked"
        value={method}
        onChange={(v) => form.set('method', v)}
        data={[
          { value: 'two_afc', label: `Two cups: which is ${chosen.more}?` },
          { value: 'triangle', label: 'Three cups: which is odd?' },
        ]}
      />
      <Choice
        label="Next step"
        value={choice}
        onChange={(v) => form.set('choice', v)}
        data={[
          { value: 'adaptive', label: 'The one that tells most' },
          { value: 'fixed', label: 'Every step equally often' },
        ]}
      />
      <Choice
        label="Who pours"
        value={way}
        onChange={(v) => form.set('way', v)}
        data={[
          { value: 'helper', label: 'A helper, by a sheet' },
          { value: 'shuffled', label: 'Each their own, shuffled' },
        ]}
      />
      <MultiSelect
        label="Tasters"
        searchable
        value={tasters}
        onChange={(v) => form.set('taster_ids', v)}
        data={people.map((p) => ({ value: p.id, label: p.name }))}
        error={at('taster_ids')}
      />
      <Button type="submit" size="md" loading={make.isPending}>
        Prepare the series
      </Button>
    </FormModal>
  );
}

type ChoiceProps<V extends string> = {
  label: string;
  value: V;
  onChange: (value: V) => void;
  data: { value: V; label: string }[];
};

function Choice<V extends string>({ label, value, onChange, data }: ChoiceProps<V>) {
  return (
    <div className={classes.choice}>
      <span>{label}</span>
      <SegmentedControl aria-label={label} fullWidth value={value} onChange={(v) => onChange(v as V)} data={data} />
    </div>
  );
}
