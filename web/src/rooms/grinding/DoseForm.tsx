import { Button, Modal, SegmentedControl, Select, TextInput } from '@mantine/core';
import { FEEDINGS } from '../../api/vocabulary';
import { optionsOf } from '../../api/words';
import { numberOf, shownAtField, useForm } from '../../ui/fields';
import { fixed, readNumber } from '../../ui/numbers';
import { useSend } from '../../ui/useSend';
import { FivePoints } from './FivePoints';
import { FormNumber } from './FormNumber';
import classes from './Grind.module.css';
import { addDose, type Dose, type DoseBody, editDose, type GrindRoom, simulateDose } from './queries';
import { useStopwatch } from './useStopwatch';

type DoseFormProps = { room: GrindRoom; dose: Dose | null; onClose: () => void };
const MASSES = ['ground_out_g', 'knocked_out_g', 'next_in_g', 'next_out_g'] as const;
const text = (value: number | null | undefined) => (value === null || value === undefined ? '' : String(value));

/** One dose: mass in, a key to start and stop, what came out, what was knocked out, what the next one gave. */
export function DoseForm({ room, dose, onClose }: DoseFormProps) {
  const form = useForm<Record<string, string>>(
    {
      dial_id: dose?.dial_id ?? room.dials[0]!.id,
      setting: text(dose?.setting),
      feeding: dose?.feeding ?? 'single_dose',
      beans_in_g: text(dose?.beans_in_g),
      grinding_s: text(dose?.grinding_s),
      ...Object.fromEntries(MASSES.map((m) => [m, text(dose?.[m])])),
      chaff: text(dose?.chaff),
      mess: text(dose?.mess),
      note: dose?.note ?? '',
      simulated: dose?.source === 'simulated' ? 'yes' : '',
    },
    dose ? '' : 'grinder-dose',
  );
  const watch = useStopwatch((seconds) => form.set('grinding_s', String(seconds)));
  const simulated = form.values.simulated === 'yes';
  const simulate = useSend(
    async () => simulateDose(form.values.dial_id!, numberOf('beans_in_g', form.values.beans_in_g ?? '') ?? 18),
    {
      onDone: (made) => {
        if (!form.values.beans_in_g) form.set('beans_in_g', '18');
        for (const [name, value] of Object.entries(made)) form.set(name, String(value));
        form.set('simulated', 'yes');
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  const save = useSend(
    async () => {
      const body = bodyOf(form.values, simulated);
      return dose ? editDose(dose.id, dose.rev, body) : addDose(body);
    },
    {
      onDone: () => {
        form.forget();
        onClose();
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  const number = (name: string, label: string, unit: string) => (
    <FormNumber form={form} name={name} label={label} unit={unit} onTyped={() => form.set('simulated', '')} />
  );
  return (
    <Modal opened onClose={onClose} title={dose ? 'Correct a dose' : 'Grind a dose'} size="lg">
      <form
        className={classes.doseForm}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <Select
          label="Grinder and burrs"
          data={room.dials.map((d) => ({ value: d.id, label: d.name }))}
          allowDeselect={false}
          value={form.values.dial_id ?? null}
          onChange={(v) => form.set('dial_id', v ?? '')}
          error={form.refused?.at('dial_id')}
        />
        {number('setting', 'Setting', '')}
        <SegmentedControl
          className={classes.wide!}
          aria-label="Fed by"
          value={form.values.feeding ?? 'single_dose'}
          onChange={(v) => form.set('feeding', v)}
          data={optionsOf(FEEDINGS)}
        />
        {number('beans_in_g', 'Beans in', 'g')}
        {number('grinding_s', 'Ground in', 's')}
        <Button
          className={`${classes.watch} ${classes.wide}`}
          data-running={watch.running || undefined}
          variant={watch.running ? 'filled' : 'default'}
          onClick={watch.press}
        >
          {watch.running ? `Stop · ${fixed(watch.seconds, 1)} s` : 'Start the clock'}
        </Button>
        <p className={classes.wide} role="status">
          {rateOf(form.values.beans_in_g, watch.running ? String(watch.seconds) : form.values.grinding_s)}
        </p>
        {number('ground_out_g', 'Ground out', 'g')}
        {number('knocked_out_g', 'Knocked or blown out after', 'g')}
        {number('next_in_g', 'Next dose in', 'g')}
        {number('next_out_g', 'Next dose out', 'g')}
        <FivePoints
          label="Chaff"
          ends="none to much"
          value={form.values.chaff ?? ''}
          onChange={(v) => form.set('chaff', v)}
        />
        <FivePoints
          label="Mess"
          ends="none to much"
          value={form.values.mess ?? ''}
          onChange={(v) => form.set('mess', v)}
        />
        <TextInput
          className={classes.wide!}
          label="Note"
          placeholder="noise, steps to the burrs, controls"
          maxLength={200}
          value={form.values.note ?? ''}
          onChange={(e) => form.set('note', e.currentTarget.value)}
        />
        <Button type="submit" loading={save.isPending} disabled={watch.running}>
          {dose ? 'Save the dose' : 'Log the dose'}
        </Button>
        {!dose && (
          <Button variant="default" loading={simulate.isPending} onClick={() => simulate.mutate()}>
            {simulated ? 'Simulated; grind another' : 'Grind on a simulated mill'}
          </Button>
        )}
      </form>
    </Modal>
  );
}

/** Grams a second, of a mass and a time: never left as a sum. */
function rateOf(mass: string | undefined, seconds: string | undefined): string {
  const [m, s] = [readNumber(mass ?? ''), readNumber(seconds ?? '')];
  if (m.kind !== 'number' || s.kind !== 'number' || s.value <= 0) return 'Speed: enter a mass and a time.';
  return `Speed: ${fixed(m.value / s.value, 2)} g/s`;
}

function bodyOf(texts: Record<string, string>, simulated: boolean): DoseBody {
  const five = (name: string) => (texts[name] ? Number(texts[name]) : null);
  return {
    dial_id: texts.dial_id!,
    setting: numberOf('setting', texts.setting ?? ''),
    feeding: texts.feeding as DoseBody['feeding'],
    beans_in_g: numberOf('beans_in_g', texts.beans_in_g ?? '') ?? 0,
    grinding_s: numberOf('grinding_s', texts.grinding_s ?? ''),
    ground_out_g: numberOf('ground_out_g', texts.ground_out_g ?? ''),
    knocked_out_g: numberOf('knocked_out_g', texts.knocked_out_g ?? ''),
    next_in_g: numberOf('next_in_g', texts.next_in_g ?? ''),
    next_out_g: numberOf('next_out_g', texts.next_out_g ?? ''),
    chaff: five('chaff'),
    mess: five('mess'),
    note: texts.note ?? '',
    simulated,
  };
}
