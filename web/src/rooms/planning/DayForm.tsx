import { Button, Checkbox, Modal, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { DurationField, NumberField, numberOf, secondsOf, shownAtField, useForm } from '../../ui/fields';
import { exactClock } from '../../ui/numbers';
import { useSend } from '../../ui/useSend';
import { kitQuery } from '../kit/queries';
import classes from './Plan.module.css';
import { type Plan, savePlan } from './queries';

const COUNTS = ['hands', 'kettles', 'brewers'] as const;
const HEATS = ['drink_c', 'low_c', 'high_c', 'spread_c'] as const;

/** What the day may use, and how warm the cups are to be. Empty: as the kit has it. */
export function DayForm({ trialId, plan, onClose }: { trialId: string; plan: Plan; onClose: () => void }) {
  const { data: kit } = useQuery(kitQuery);
  const day = plan.settings.day;
  const shown = (v: number | null | undefined) => (v == null ? '' : String(v));
  const form = useForm({
    hands: shown(day.hands),
    kettles: shown(day.kettles),
    brewers: shown(day.brewers),
    heat_s: exactClock(day.heat_s),
    reheat_s: exactClock(day.reheat_s),
    server_id: day.server_id ?? '',
    cup_id: day.cup_id ?? '',
    drink_c: shown(day.drink_c),
    low_c: shown(day.low_c),
    high_c: shown(day.high_c),
    spread_c: shown(day.spread_c),
  });
  const [keepOrder, setKeepOrder] = useState(day.keep_order);
  const [measure, setMeasure] = useState(day.measure);
  const save = useSend(
    async () => {
      const number = (name: (typeof COUNTS | typeof HEATS)[number]) => numberOf(`day.${name}`, form.values[name]);
      const next = {
        hands: number('hands') ?? 1,
        kettles: number('kettles'),
        brewers: number('brewers'),
        heat_s: await secondsOf(form.values.heat_s),
        reheat_s: await secondsOf(form.values.reheat_s),
        server_id: form.values.server_id || null,
        cup_id: form.values.cup_id || null,
        drink_c: number('drink_c') ?? 78,
        low_c: number('low_c') ?? 42,
        high_c: number('high_c') ?? 62,
        spread_c: number('spread_c') ?? 3,
        keep_order: keepOrder,
        measure,
      };
      return savePlan(trialId, plan.rev, { ...plan.settings, day: next });
    },
    { onDone: onClose, onTrouble: shownAtField(form.setRefused) },
  );
  const field = (name: (typeof COUNTS | typeof HEATS)[number], label: string, unit: string, placeholder = '') => (
    <NumberField
      label={label}
      unit={unit}
      placeholder={placeholder}
      value={form.values[name]}
      onText={(t) => form.set(name, t)}
      error={form.refused?.at(`day.${name}`)}
    />
  );
  const vessels = (use: 'server' | 'cup') =>
    (kit?.items ?? [])
      .filter((i) => i.kind === 'vessel' && i.vessel?.use === use && !i.retired)
      .map((i) => ({ value: i.id, label: i.name }));
  const vessel = (name: 'server_id' | 'cup_id', use: 'server' | 'cup', label: string) => (
    <Select
      label={label}
      placeholder="the kit’s first"
      clearable
      clearButtonProps={{ 'aria-label': `No ${use} in particular` }}
      data={vessels(use)}
      value={form.values[name] || null}
      onChange={(v) => form.set(name, v ?? '')}
      error={form.refused?.at(`day.${name}`)}
    />
  );
  return (
    <Modal opened onClose={onClose} title="What the day may use" size="lg">
      <form
        className={classes.form}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <div className={classes.formRow}>
          {field('hands', 'Pairs of hands', '')}
          {field('kettles', 'Kettles', '', 'as in the kit')}
          {field('brewers', 'Brewers of each kind', '', 'as in the kit')}
        </div>
        <div className={classes.formRow}>
          <DurationField
            label="Kettle, cold to set"
            value={form.values.heat_s}
            onText={(t) => form.set('heat_s', t)}
            error={form.refused?.at('day.heat_s')}
          />
          <DurationField
            label="Kettle, between brews"
            value={form.values.reheat_s}
            onText={(t) => form.set('reheat_s', t)}
            error={form.refused?.at('day.reheat_s')}
          />
          {vessel('server_id', 'server', 'Drinks wait in')}
          {vessel('cup_id', 'cup', 'and are tasted from')}
        </div>
        <div className={classes.formRow}>
          {field('drink_c', 'Drink when the drips stop', '°C')}
          {field('low_c', 'Taste between', '°C')}
          {field('high_c', 'and', '°C')}
          {field('spread_c', 'Largest gap between cups', '°C')}
        </div>
        <Checkbox
          label="Keep the drawn order of brewing"
          checked={keepOrder}
          onChange={(e) => setKeepOrder(e.currentTarget.checked)}
        />
        <Checkbox
          label="Take a sample of each brew for the refractometer"
          checked={measure}
          onChange={(e) => setMeasure(e.currentTarget.checked)}
        />
        <Button type="submit" loading={save.isPending}>
          Save
        </Button>
      </form>
    </Modal>
  );
}
