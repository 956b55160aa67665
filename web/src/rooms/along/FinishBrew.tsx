import { Button, TextInput } from '@mantine/core';
import { useNavigate } from 'react-router';
import { NumberField, numberOf, shownAtField, useTyped } from '../../ui/fields';
import { clock } from '../../ui/numbers';
import { tellDone } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { readingsOf as readTds } from '../brewing/runTexts';
import classes from './Along.module.css';
import { finish, type LiveBrew } from './queries';

/** What is weighed and read once the hands are dry; then it is a logged brew. */
export function FinishBrew({ brew }: { brew: LiveBrew }) {
  const form = useTyped({ beverage_g: '', tds: '', note: '' });
  const navigate = useNavigate();
  const drips = brew.marks.filter((m) => m.kind === 'drips_stopped').at(-1);
  const save = useSend(
    async () =>
      finish(brew, {
        beverage_g: numberOf('beverage_g', form.texts.beverage_g),
        tds_readings_pct: readTds(form.texts.tds),
        note: form.texts.note,
        purpose: 'evidence',
      }),
    {
      onDone: () => {
        tellDone(`Brew ${brew.letter}${brew.number} is logged.`);
        navigate(`/trials/${brew.trial_id}/brew`);
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  if (brew.finished) {
    return (
      <section className="card">
        <h2>This brew is logged</h2>
      </section>
    );
  }
  return (
    <form
      className={`card ${classes.finish}`}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <h2>Over at {clock(drips?.at_s)}: weigh it</h2>
      <p className="quiet">{brew.deviations_said}</p>
      <div className={classes.finishFields}>
        <NumberField
          size="lg"
          label="Beverage mass"
          unit="g"
          value={form.texts.beverage_g}
          onText={(t) => form.set('beverage_g', t)}
          error={form.refused?.at('beverage_g')}
        />
        <TextInput
          size="lg"
          label="TDS readings, %"
          description="May follow later."
          value={form.texts.tds}
          onChange={(e) => form.set('tds', e.currentTarget.value)}
          error={form.refused?.at('tds_readings_pct')}
        />
        <TextInput
          size="lg"
          label="Note"
          maxLength={500}
          value={form.texts.note}
          onChange={(e) => form.set('note', e.currentTarget.value)}
          error={form.refused?.at('note')}
        />
      </div>
      <Button type="submit" size="lg" loading={save.isPending}>
        Log brew {brew.letter}
        {brew.number}
      </Button>
    </form>
  );
}
