import { Button, Modal } from '@mantine/core';
import { useState } from 'react';
import { Refused } from '../../api/client';
import { Confirm } from '../../ui/Confirm';
import { NumberField, numberOf } from '../../ui/fields';
import { Lines } from '../../ui/Lines';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { useTellDeleted } from '../../ui/tell';
import { ratio } from '../../ui/units';
import { useSend } from '../../ui/useSend';
import { correctReading, removeReading } from '../brewing/queries';
import { seenSaid } from '../brewing/seen';
import classes from './Measure.module.css';
import type { RunMeasured } from './queries';

type ReadingShown = RunMeasured['readings'][number];

/** The charts' twin in numbers; a reading is corrected by pressing it. */
export function BrewTable({ runs, yieldBasisLabel }: { runs: RunMeasured[]; yieldBasisLabel: string }) {
  const [editing, setEditing] = useState<ReadingShown | null>(null);
  return (
    <Lines className={classes.tableCard} label="Brews">
      <table className={classes.table}>
        <thead>
          <tr>
            <th scope="col">brew</th>
            <th scope="col">ratio in</th>
            <th scope="col">beverage</th>
            <th scope="col">readings, % TDS</th>
            <th scope="col">TDS, %</th>
            <th scope="col">{yieldBasisLabel}, %</th>
            <th scope="col">kept, g/g</th>
            <th scope="col">seen</th>
            <th scope="col">doubts</th>
          </tr>
        </thead>
        <tbody>
          {runs.map((run) => (
            <tr key={run.id}>
              <th scope="row">
                <span className={classes.brewName}>
                  <Penny stamp={run.letter} size={24} />
                  {run.label}
                </span>
              </th>
              <td className="num">{ratio(run.brew_ratio)}</td>
              <td className="num">{ratio(run.beverage_ratio)}</td>
              <td className={classes.readings}>
                {run.readings.map((r) => (
                  <Button
                    key={r.id}
                    size="compact-sm"
                    variant="subtle"
                    className={classes.readingButton}
                    aria-label={`Correct reading ${fixed(r.tds_pct)} of ${run.label}`}
                    onClick={() => setEditing(r)}
                  >
                    {fixed(r.tds_pct)}
                    {r.as_read && <sup title={asReadSaid(r.as_read)}>{MARKS[r.as_read.kind] ?? '*'}</sup>}
                  </Button>
                ))}
                {run.readings.length === 0 && <span className="quiet">none</span>}
              </td>
              <td className="num">
                {run.tds ? `${fixed(run.tds.value)} ± ${fixed(run.tds.half_width)}` : '–'}
                {run.undiluted_tds_pct !== null && (
                  <p className="quiet small">{fixed(run.undiluted_tds_pct)} before its bypass</p>
                )}
                {run.served && (
                  <p className="quiet small">
                    served {fixed(run.served.tds_pct)}, +{fixed(run.served.added_water_g, 1)} g water
                  </p>
                )}
              </td>
              <td className="num">
                {run.extraction_yield
                  ? `${fixed(run.extraction_yield.value, 1)} ± ${fixed(run.extraction_yield.half_width, 1)}`
                  : '–'}
              </td>
              <td className="num">{fixed(run.retained_water_ratio)}</td>
              <td className={classes.seen}>{seenSaid(run.observed)}</td>
              <td className={classes.doubts}>{doubtsOf(run) || <span className="quiet">none</span>}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {editing && <EditReading reading={editing} onClose={() => setEditing(null)} />}
    </Lines>
  );
}

const MARKS: Record<string, string> = { tds: '−', brix: 'B', oven: 'o' };

function asReadSaid({ kind, value, offset_pct }: NonNullable<ReadingShown['as_read']>): string {
  const how = { tds: `read as ${fixed(value)} %`, brix: `read as ${fixed(value)} °Brix`, oven: 'dried in an oven' }[
    kind
  ];
  return offset_pct ? `${how}, less ${fixed(offset_pct)} by the last check` : (how ?? '');
}

function doubtsOf(run: RunMeasured): string {
  const off = run.off_plan.length ? [`Off plan: ${run.off_plan.join(', ')}.`] : [];
  const hurried = run.skipped.length ? [`Reading: ${run.skipped.join(', ')}.`] : [];
  return [...run.warnings.map((w) => w.text), ...off, ...hurried].join(' ');
}

function EditReading({ reading, onClose }: { reading: ReadingShown; onClose: () => void }) {
  const asRead = reading.as_read;
  const field = asRead?.kind === 'brix' ? 'brix' : 'tds_pct';
  const [text, setText] = useState(String(asRead ? asRead.value : reading.tds_pct));
  const [trouble, setTrouble] = useState<string>();
  const tellDeleted = useTellDeleted();
  const save = useSend(
    async () => correctReading(reading.id, reading.rev, { [field]: numberOf('tds_pct', text) ?? Number.NaN }),
    {
      onDone: onClose,
      onTrouble: (error) => {
        setTrouble(error instanceof Refused ? error.at(field) : undefined);
        return error instanceof Refused && error.status === 422;
      },
    },
  );
  const remove = useSend(() => removeReading(reading.id), {
    onDone: (done) => {
      tellDeleted('The reading', done.change_id);
      onClose();
    },
  });
  return (
    <Modal opened onClose={onClose} title="Correct a reading" size="sm">
      <form
        className={classes.edit}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <NumberField
          label="Reading"
          unit={field === 'brix' ? '°Brix' : '% TDS'}
          value={text}
          onText={setText}
          error={trouble}
          data-autofocus
        />
        <Button type="submit" loading={save.isPending}>
          Save the correction
        </Button>
        <Confirm
          question="Delete this reading?"
          detail="An outlier is better repeated than deleted. It can be undone."
          verb="Delete the reading"
          onYes={() => remove.mutate()}
        >
          {(askFirst) => (
            <Button variant="subtle" color="red" onClick={askFirst}>
              Delete the reading
            </Button>
          )}
        </Confirm>
      </form>
    </Modal>
  );
}
