import type { Refused } from '../../api/client';
import { DurationField, NumberField } from '../../ui/fields';
import { clock, fixed } from '../../ui/numbers';
import classes from './Brew.module.css';
import { bySaid, type PourField, type PourShown, pourKey } from './pourTexts';

type PourTableProps = {
  pours: PourShown[];
  texts: Record<string, string>;
  set: (name: string, text: string) => void;
  refused: Refused | null;
};

/** Each pour as it was made, over what was planned: when it began, when it ended, and what had been poured by then. */
export function PourTable({ pours, texts, set, refused }: PourTableProps) {
  if (!pours.length) return null;
  return (
    <fieldset className={classes.pourTable}>
      <legend>Pours, as they were made</legend>
      {pours.map((p, i) => {
        const at = (field: PourField) => ({
          value: texts[pourKey(p.index, field)] ?? '',
          onText: (t: string) => set(pourKey(p.index, field), t),
          error: refused?.at(`pours.${i}.${field}`),
        });
        return (
          <div key={p.index} className={classes.pour} data-plan={p.by === 'plan' || undefined}>
            <p>
              {p.text}
              <span className="quiet small num">
                {' '}
                {clock(p.plan_start_s)}–{clock(p.plan_end_s)}
              </span>
              {p.by && <span className={classes.by}>{bySaid(p.by)}</span>}
            </p>
            <DurationField size="xs" label={`Pour ${i + 1} began`} {...at('began_s')} />
            <DurationField size="xs" label={`Pour ${i + 1} ended`} {...at('ended_s')} />
            <NumberField
              size="xs"
              label={`Water by then`}
              unit="g"
              placeholder={fixed(p.plan_to_g, 0)}
              {...at('reading_g')}
            />
          </div>
        );
      })}
    </fieldset>
  );
}
