import { NextLink } from '../../ui/NextLink';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import classes from './Brew.module.css';
import type { Slot } from './turn';

type SlotsProps = {
  trialId: string;
  slots: Slot[];
  /** What they are for, where a verdict proposed them. */
  drafted: string;
  chosen: string;
  /** Whether any of them is in a flight already. */
  poured: boolean;
  onChoose: (setupId: string) => void;
};

/** The brews as planned, filling one after the other; an open one is chosen by a press. */
export function Slots({ trialId, slots, drafted, chosen, poured, onChoose }: SlotsProps) {
  if (!slots.length) return null;
  const done = slots.filter((s) => s.run_id).length;
  const next = slots.find((s) => !s.run_id && s.setup_id === chosen) ?? slots.find((s) => !s.run_id);
  return (
    <section className={`card ${classes.slots}`} aria-labelledby="slots">
      <h2 id="slots">
        {drafted ? 'Drafted' : 'Planned'}: {done} of {slots.length} brewed
      </h2>
      {drafted && <p className="quiet small">{drafted}</p>}
      <ol>
        {slots.map((slot) => (
          <li key={slot.label}>
            {slot.run_id ? (
              <span className={classes.slot} data-done>
                <Penny stamp={slot.letter} size={30} label="" />
                <span>
                  {slot.label}
                  <span className="sr-only"> is brewed</span>
                </span>
              </span>
            ) : (
              <button
                type="button"
                className={classes.slot}
                aria-pressed={slot === next}
                onClick={() => onChoose(slot.setup_id)}
              >
                <Penny stamp={slot.letter} size={30} label="" />
                <span>
                  {slot.label}
                  <span className="sr-only"> is to be brewed</span>
                </span>
              </button>
            )}
          </li>
        ))}
      </ol>
      {next && (
        <p>
          {next.label}: <b className="num">{fixed(next.dose_g, 1)} g</b>
          {next.ground_on && (
            <>
              , ground on <b>{next.ground_on}</b>
            </>
          )}
        </p>
      )}
      {done === slots.length && !poured && (
        <NextLink to={`/trials/${trialId}/taste`} takesFocus>
          Pour them blind
        </NextLink>
      )}
    </section>
  );
}
