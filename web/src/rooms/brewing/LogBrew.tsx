import { Button, SegmentedControl } from '@mantine/core';
import { shownAtField } from '../../ui/fields';
import { Penny } from '../../ui/Penny';
import { Restored } from '../../ui/Restored';
import { tellDone } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { BrewAlong } from '../live_brews/BrewAlong';
import type { Results } from '../measuring/queries';
import type { Setup } from '../trials/queries';
import classes from './Brew.module.css';
import { BrewForm } from './BrewForm';
import { isPressed } from './brewers';
import { bodyOf, brewTexts, pourEnd, readingsOf } from './brewTexts';
import { logRun, type RunBody } from './queries';
import { NOTHING_SEEN } from './seen';
import { type BrewBegins, useBrewForm } from './useBrewForm';

export type Purpose = 'evidence' | 'dial_in';

type LogBrewProps = {
  trialId: string;
  setups: Setup[];
  /** The one that is being brewed; another one starts this form anew. */
  setup: Setup;
  yield_basis: Results['yield_basis'];
  purpose: Purpose;
  onPurpose: (purpose: Purpose) => void;
  onChoose: (setupId: string) => void;
  onLogged: () => void;
};

/** Log one brew: choose its penny, correct the plan by what the scale said. */
export function LogBrew({ trialId, setups, setup, yield_basis, purpose, onPurpose, onChoose, onLogged }: LogBrewProps) {
  const form = useBrewForm(`log.${setup.id}`, planned(setup));
  const { texts, seen, concentrate } = form;
  const anew = () => form.startAfresh(planned(setup));
  const save = useSend(
    async () => {
      form.check();
      return logRun(trialId, {
        setup_id: setup.id,
        purpose,
        ...(await bodyOf(texts, seen, setup.pours, concentrate)),
        ...(await pourEnd(texts, setup.pours)),
        tds_readings_pct: readingsOf(texts.tds_readings_pct),
      } as RunBody);
    },
    {
      onDone: (run) => {
        if (purpose === 'dial_in') {
          tellDone(`Dial-in brew ${run.number} of ${setup.letter} is logged.`);
          anew();
        } else {
          tellDone(`Brew ${setup.letter}${run.number} is logged.`);
          anew(); // the next one may be of the same setup
          onLogged();
          setTimeout(() => document.querySelector<HTMLInputElement>('input[data-begins-a-brew]')?.focus());
        }
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  return (
    <form
      className="card"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      {/* While one brew is on its way nothing can be typed that its arrival would wipe. */}
      <fieldset className={classes.whole} disabled={save.isPending}>
        <h2>Log a brew</h2>
        <Restored form={form} from="recipe" />
        <div className={classes.choose} role="radiogroup" aria-label="Setup brewed">
          {setups.map((s) => (
            <button
              key={s.id}
              type="button"
              role="radio"
              aria-checked={s.id === setup.id}
              className={classes.choice}
              onClick={() => onChoose(s.id)}
            >
              <Penny stamp={s.letter} size={34} />
              <span>
                <b>{s.name}</b>
                <span className="small quiet">{s.runs} brewed</span>
              </span>
            </button>
          ))}
        </div>
        <BrewAlong trialId={trialId} setupId={setup.id} letter={setup.letter} />
        <SegmentedControl
          fullWidth
          size="xs"
          mb={10}
          aria-label="What the brew is for"
          value={purpose}
          onChange={(v) => onPurpose(v as Purpose)}
          data={[
            { value: 'evidence', label: 'Counts' },
            { value: 'dial_in', label: 'Dial-in' },
          ]}
        />
        <BrewForm
          texts={texts}
          set={form.set}
          refused={form.refused}
          seen={seen}
          onSeen={form.onSeen}
          concentrate={concentrate}
          onConcentrate={form.onConcentrate}
          pours={setup.pours}
          yield_basis={yield_basis}
          pressed={isPressed(setup.variables.brewer_type ?? null)}
          folded
        />
        <Button type="submit" size="md" loading={save.isPending} fullWidth>
          {purpose === 'dial_in'
            ? `Log a dial-in brew of ${setup.letter}`
            : `Log brew ${setup.letter}${setup.next_brew}`}
        </Button>
      </fieldset>
    </form>
  );
}

/** What a brew of this setup is meant to be: the plan is the starting point, the scale corrects it. */
const planned = (setup: Setup): BrewBegins => ({
  texts: brewTexts({ ...setup.variables, note: '' }, NOTHING_SEEN, setup.pours),
  seen: NOTHING_SEEN,
  concentrate: setup.concentrate,
});
