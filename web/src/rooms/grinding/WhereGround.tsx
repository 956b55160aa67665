import { Select } from '@mantine/core';
import { localRefusal, NumberField, numberOf } from '../../ui/fields';
import type { Form as FormOf } from '../../ui/useForm';
import type { Kit } from '../kit/queries';
import type { GrindRoom } from './queries';

type Form = FormOf<Record<string, string>>;

/** Grinder, setting and coffee: the same for a shaken stack and a table. */
export function WhereGround({ form, room, kit }: { form: Form; room: GrindRoom; kit: Kit }) {
  const coffees = kit.items.filter((i) => i.kind === 'coffee' && !i.retired);
  return (
    <>
      <Select
        label="Grinder and burrs"
        data={room.dials.map((d) => ({ value: d.id, label: d.name }))}
        allowDeselect={false}
        value={form.values.dial_id ?? null}
        onChange={(v) => form.set('dial_id', v ?? '')}
        error={form.refused?.at('dial_id')}
      />
      <NumberField
        label="Setting"
        value={form.values.setting ?? ''}
        onText={(t) => form.set('setting', t)}
        error={form.refused?.at('setting')}
      />
      <Select
        label="Coffee"
        clearable
        placeholder="not said; none comes off the stock"
        data={coffees.map((c) => ({ value: c.id, label: c.name }))}
        value={form.values.coffee_id || null}
        onChange={(v) => form.set('coffee_id', v ?? '')}
        error={form.refused?.at('coffee_id')}
      />
    </>
  );
}

/** Setting as typed, refused at its field when there is none. */
export function settingOf(texts: Record<string, string>): number {
  const setting = numberOf('setting', texts.setting ?? '');
  if (setting === null) throw localRefusal('setting', 'nothing is typed.', 'Enter where the dial stands.');
  return setting;
}
