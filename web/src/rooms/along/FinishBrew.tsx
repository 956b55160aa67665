import { Button, TextInput } from '@mantine/core';
import { Link, useNavigate } from 'react-router';
import { DurationField, NumberField, numberOf, secondsOf, shownAtField, useTyped } from '../../ui/fields';
import { clock, exactClock, fixed } from '../../ui/numbers';
import { tellDone } from '../../ui/tell';
import { useDraft } from '../../ui/useDraft';
import { useSend } from '../../ui/useSend';
import { readingsOf as readTds } from '../brewing/runTexts';
import { SeenChips } from '../brewing/SeenChips';
import { SeenNumbers, seenTexts, withNumbers } from '../brewing/SeenNumbers';
import { NOTHING_SEEN, type Observed } from '../brewing/seen';
import classes from './Along.module.css';
import { calledOf, homeOf, pouredSaid } from './marks';
import { PlanAgainstActual } from './PlanAgainstActual';
import { finish, type LiveBrew } from './queries';

/** What is weighed, read and seen once the hands are dry; then it is a logged brew. */
export function FinishBrew({ brew }: { brew: LiveBrew }) {
  const drips = brew.marks.filter((m) => m.kind === 'drips_stopped').at(-1);
  const stopped = exactClock(drips?.at_s);
  const form = useTyped(
    {
      beverage_g: '',
      brew_water_g: String(pouredSaid(brew)),
      tds: '',
      note: '',
      total_time_s: stopped,
      ...seenTexts({ ...NOTHING_SEEN, ...brew.observed }),
    },
    `finish.${brew.id}`,
  );
  const [seen, setSeen, forgetSeen] = useDraft<Observed>(`seen.${brew.id}`, { ...NOTHING_SEEN, ...brew.observed });
  const navigate = useNavigate();
  const pressed = brew.steps.find((s) => s.kind === 'press');
  const save = useSend(
    async () => {
      const corrected = form.texts.total_time_s === stopped ? null : await secondsOf(form.texts.total_time_s);
      return finish(brew, {
        beverage_g: numberOf('beverage_g', form.texts.beverage_g),
        brew_water_g: numberOf('brew_water_g', form.texts.brew_water_g),
        tds_readings_pct: readTds(form.texts.tds),
        note: form.texts.note,
        purpose: 'evidence',
        total_time_s: corrected,
        observed: await withNumbers(seen, form.texts),
      });
    },
    {
      onDone: () => {
        form.forget();
        forgetSeen();
        tellDone(`${brew.trial_id === null ? brew.name : `Brew ${calledOf(brew)}`} is logged.`);
        navigate(homeOf(brew));
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  if (brew.finished) {
    return (
      <section className="card">
        <h2>This brew is logged</h2>
        <Link to={homeOf(brew)}>Go on from there</Link>
      </section>
    );
  }
  const number = (name: keyof typeof form.texts, label: string, unit: string) => (
    <NumberField
      label={label}
      unit={unit}
      value={form.texts[name]}
      onText={(t) => form.set(name, t)}
      error={form.refused?.at(name)}
    />
  );
  return (
    <div className={classes.ending}>
      <form
        className={`card ${classes.finish}`}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <div>
          <h2>Finished at {clock(drips?.at_s)}. Weigh the drink.</h2>
          <p className="quiet">{brew.deviations_said}</p>
        </div>
        {brew.simulated && (
          <Button
            variant="light"
            onClick={() => {
              form.set('beverage_g', String(brew.simulated!.beverage_g));
              form.set('tds', brew.simulated!.tds_readings_pct.map((x) => fixed(x)).join(' '));
              if (brew.simulated!.slurry_c !== null) form.set('slurry_c', String(brew.simulated!.slurry_c));
            }}
          >
            Take the simulated readings
          </Button>
        )}
        <div className={classes.finishFields}>
          <NumberField
            size="lg"
            label="Beverage mass"
            description="Before any sediment is left behind."
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
          <DurationField
            size="lg"
            label="Drips really stopped at"
            description="Corrected here if it was pressed late; the press is kept."
            value={form.texts.total_time_s}
            onText={(t) => form.set('total_time_s', t)}
            error={form.refused?.at('total_time_s')}
          />
        </div>
        <SeenChips seen={seen} onChange={setSeen} />
        <div className={classes.finishFields}>
          {number('brew_water_g', 'Water poured', 'g')}
          <SeenNumbers texts={form.texts} set={form.set} refused={form.refused} pressed={pressed !== undefined} />
          <TextInput
            label="Note"
            maxLength={500}
            value={form.texts.note}
            onChange={(e) => form.set('note', e.currentTarget.value)}
            error={form.refused?.at('note')}
          />
        </div>
        <Button type="submit" size="lg" loading={save.isPending}>
          {brew.trial_id === null ? 'Log this brew' : `Log brew ${calledOf(brew)}`}
        </Button>
      </form>
      <PlanAgainstActual brew={brew} />
    </div>
  );
}
