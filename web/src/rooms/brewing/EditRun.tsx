import { Button, Modal } from '@mantine/core';
import { useState } from 'react';
import { Refused } from '../../api/client';
import { Confirm } from '../../ui/Confirm';
import { LOOSE } from '../../ui/Penny';
import { Restored } from '../../ui/Restored';
import { useTellDeleted } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import type { RunMeasured } from '../measuring/queries';
import classes from './Brew.module.css';
import { BrewForm } from './BrewForm';
import { bodyOf, brewTexts, pourEnd, readingsOf } from './brewTexts';
import { correctRun, type RunPatch, removeRun } from './queries';
import { ScaleLog } from './ScaleLog';
import { NOTHING_SEEN } from './seen';
import { useBrewForm } from './useBrewForm';

type EditRunProps = { run: RunMeasured; yield_basis: 'in_cup' | 'full_liquor'; onClose: () => void };

/** Correct or delete one brew. When somebody else wrote first, both versions are shown and the person chooses. */
export function EditRun({ run, yield_basis, onClose }: EditRunProps) {
  const known = { ...NOTHING_SEEN, ...run.observed };
  const form = useBrewForm(`edit.${run.id}.${run.rev}`, {
    texts: brewTexts(run, known, run.pours),
    seen: known,
    concentrate: run.concentrate,
  });
  const { texts, seen, concentrate } = form;
  const [rev, setRev] = useState(run.rev);
  const [stale, setStale] = useState<{ theirs: Record<string, unknown>; yours: Record<string, unknown> } | null>(null);
  const tellDeleted = useTellDeleted();
  const save = useSend(
    async () =>
      correctRun(run.id, rev, {
        ...(await bodyOf(texts, seen, run.pours, concentrate)),
        ...(await pourEnd(texts, run.pours)),
        tds_readings_pct: readingsOf(texts.tds_readings_pct),
      } as RunPatch),
    {
      onDone: () => {
        form.forget();
        onClose();
      },
      onTrouble: (error) => {
        if (!(error instanceof Refused)) return false;
        if (error.status === 422) {
          form.setRefused(error);
          return true;
        }
        if (error.status === 409 && error.problem?.current) {
          setStale({ theirs: error.problem.current, yours: error.problem.yours ?? {} });
          setRev(Number(error.problem.current.rev));
          return true;
        }
        return false;
      },
    },
  );
  const remove = useSend(() => removeRun(run.id), {
    onDone: (done) => {
      tellDeleted(`Brew ${run.label}`, done.change_id);
      onClose();
    },
  });
  return (
    <Modal
      opened
      onClose={onClose}
      title={`Correct ${run.letter === LOOSE ? run.label : `brew ${run.label}`}`}
      size="lg"
    >
      <form
        className={classes.edit}
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <Restored form={form} />
        <BrewForm
          texts={texts}
          set={form.set}
          refused={form.refused}
          seen={seen}
          onSeen={form.onSeen}
          concentrate={concentrate}
          onConcentrate={form.onConcentrate}
          pours={run.pours}
          yield_basis={yield_basis}
          read={run.readings.map((r) => r.tds_pct)}
          pressed={run.observed.press_s != null || run.observed.press_kg != null}
        />
        <ScaleLog run={run} rev={rev} onRev={setRev} />
        {stale && (
          <div role="alert">
            <p>
              <b>Somebody changed this brew while you were editing.</b> Save yours over it, or close to keep theirs.
            </p>
            <table className={classes.both}>
              <thead>
                <tr>
                  <th scope="col">differs</th>
                  <th scope="col">theirs</th>
                  <th scope="col">yours</th>
                </tr>
              </thead>
              <tbody>
                {Object.keys(stale.yours)
                  .filter((name) => stale.theirs[name] !== stale.yours[name])
                  .map((name) => (
                    <tr key={name}>
                      <td>{name.replaceAll('_', ' ')}</td>
                      <td className="num">{String(stale.theirs[name] ?? '–')}</td>
                      <td className="num">{String(stale.yours[name] ?? '–')}</td>
                    </tr>
                  ))}
              </tbody>
            </table>
          </div>
        )}
        <div className={classes.buttons}>
          <Button type="submit" loading={save.isPending}>
            {stale ? 'Save yours over theirs' : 'Save the correction'}
          </Button>
          {stale && (
            <Button variant="default" onClick={onClose}>
              Keep theirs
            </Button>
          )}
          <Confirm
            question={`Delete brew ${run.label}?`}
            detail="Its readings leave the results with it. It can be undone."
            verb="Delete the brew"
            onYes={() => remove.mutate()}
          >
            {(askFirst) => (
              <Button variant="subtle" color="red" onClick={askFirst}>
                Delete the brew
              </Button>
            )}
          </Confirm>
        </div>
      </form>
    </Modal>
  );
}
