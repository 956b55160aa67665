import { Button } from '@mantine/core';
import { Link, useNavigate } from 'react-router';
import { shownAtField } from '../../ui/fields';
import { clock, exactClock, fixed } from '../../ui/numbers';
import { tellDone } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { BrewForm } from '../brewing/BrewForm';
import { yieldBasisOf } from '../brewing/brewers';
import { bodyOf, brewTexts, readingsOf } from '../brewing/brewTexts';
import { NOTHING_SEEN } from '../brewing/seen';
import { useBrewForm } from '../brewing/useBrewForm';
import classes from './Along.module.css';
import { Discard } from './Discard';
import { calledOf, homeOf, pouredSaid } from './marks';
import { finish, type LiveBrew } from './queries';

/** What is weighed, read and seen once the hands are dry; then it is a logged brew. */
export function FinishBrew({ brew, onDrop }: { brew: LiveBrew; onDrop: () => void }) {
  const ended_s = brew.now.ended_s;
  const known = { ...NOTHING_SEEN, ...brew.observed };
  const form = useBrewForm(`finish.${brew.id}`, {
    texts: brewTexts(
      {
        dose_g: brew.dose_g,
        brew_water_g: pouredSaid(brew),
        bypass_g: brew.bypass_g,
        temperature_c: brew.temperature_c,
        total_time_s: ended_s === null ? null : Math.round(10 * ended_s) / 10,
      },
      known,
      brew.pours,
    ),
    seen: known,
    concentrate: false,
  });
  const { texts, seen, concentrate } = form;
  const navigate = useNavigate();
  const save = useSend(
    async () => {
      const { total_time_s, brew_water_g, ...rest } = await bodyOf(texts, seen, brew.pours, concentrate);
      return finish(brew, {
        ...rest,
        purpose: 'evidence',
        tds_readings_pct: readingsOf(texts.tds_readings_pct),
        total_time_s: texts.total_time_s === exactClock(ended_s) ? null : total_time_s,
        brew_water_g: texts.brew_water_g === String(pouredSaid(brew)) && rest.pours.length ? null : brew_water_g,
      });
    },
    {
      onDone: () => {
        form.forget();
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
  const forgotten = brew.pours.filter((p) => p.by === 'plan').length;
  return (
    <form
      className={`card ${classes.finish}`}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <div>
        <h2>{ended_s === null ? 'Weigh the drink.' : `It was over at ${clock(ended_s)}. Weigh the drink.`}</h2>
        {brew.deviations_said && (
          <p className="quiet">
            {brew.deviations_said}
            {forgotten > 0 &&
              ` ${forgotten === 1 ? 'One pour was' : `${forgotten} pours were`} not pressed: the times below are the recipe’s; mend them if you know better.`}
          </p>
        )}
      </div>
      {brew.simulated && (
        <Button
          variant="light"
          className={classes.take}
          onClick={() => {
            form.set('beverage_g', String(brew.simulated!.beverage_g));
            form.set('tds_readings_pct', brew.simulated!.tds_readings_pct.map((x) => fixed(x)).join(' '));
            if (brew.simulated!.slurry_c !== null) form.set('slurry_c', String(brew.simulated!.slurry_c));
          }}
        >
          Take the simulated readings
        </Button>
      )}
      <BrewForm
        texts={texts}
        set={form.set}
        refused={form.refused}
        seen={seen}
        onSeen={form.onSeen}
        concentrate={concentrate}
        onConcentrate={form.onConcentrate}
        pours={brew.pours}
        yield_basis={yieldBasisOf(brew.brewer_type)}
        ends={`${brew.end.done}, really, at`}
        pressed={brew.steps.some((s) => s.kind === 'press')}
      />
      <Button type="submit" size="lg" loading={save.isPending}>
        {brew.trial_id === null ? 'Log this brew' : `Log brew ${calledOf(brew)}`}
      </Button>
      <Discard onYes={onDrop}>
        {(ask) => (
          <Button variant="subtle" color="red" onClick={ask}>
            Discard
          </Button>
        )}
      </Discard>
    </form>
  );
}
