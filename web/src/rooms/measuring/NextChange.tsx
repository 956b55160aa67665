import { Button, Chip, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { clock, fixed } from '../../ui/numbers';
import { tellDone } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { addVersion } from '../recipes/queries';
import classes from './Measure.module.css';
import { type Advised, adviceQuery, type RunMeasured } from './queries';

/** Targets against result, what it tasted of, and exactly one change for the next brew. */
export function NextChange({ runs }: { runs: RunMeasured[] }) {
  const [chosen, setChosen] = useState(runs[runs.length - 1]!.id);
  const [words, setWords] = useState<string[]>([]);
  const run = runs.find((r) => r.id === chosen) ?? runs[0]!;
  const { data: a, isPlaceholderData: isEarlier } = useQuery(adviceQuery(run.id, words));
  return (
    <div className={classes.two}>
      <section aria-label="What came out">
        <div className={classes.readingHead}>
          <h3>What came out</h3>
          <Select
            aria-label="Brew to advise on"
            className={classes.which}
            allowDeselect={false}
            value={run.id}
            onChange={(v) => v && setChosen(v)}
            data={runs.map((r) => ({ value: r.id, label: r.label }))}
          />
        </div>
        {a && (
          <>
            <dl className={classes.targets}>
              {a.targets.map((t) => (
                <div key={t.label} data-state={t.state}>
                  <dt>{t.label}</dt>
                  <dd className="num">
                    {shown(t.value, t.unit)} <span className="quiet small">wanted {windowOf(t)}</span>
                  </dd>
                  <dd>{t.state}</dd>
                </div>
              ))}
            </dl>
            {a.targets.length === 0 && (
              <p className="quiet small">
                Its recipe has no targets, so only taste words can speak. Give the recipe windows for strength, yield or
                time.
              </p>
            )}
            <h3>What it tasted of</h3>
            <Chip.Group multiple value={words} onChange={setWords}>
              <div className={classes.words}>
                {a.words.map((w) => (
                  <Chip key={w.code} value={w.code} size="sm">
                    {w.label}
                  </Chip>
                ))}
              </div>
            </Chip.Group>
          </>
        )}
      </section>
      {a && <Change advised={a} isEarlier={isEarlier} />}
    </div>
  );
}

/** isEarlier: what was advised before the last word was ticked, which nobody may keep. */
function Change({ advised: a, isEarlier }: { advised: Advised; isEarlier: boolean }) {
  const keep = useSend(() => addVersion(a.recipe_id!, a.recipe_rev!, a.draft!, `${a.change!.text}: ${a.says}`), {
    onDone: () => tellDone(`${a.recipe_name}: the next version is kept.`),
  });
  return (
    <section aria-label="One change">
      <h3>One change</h3>
      {a.change ? (
        <>
          <p className={classes.verdictLine}>
            {a.change.text}: {a.says || a.change.size}
          </p>
          <p>{a.change.reason}</p>
          {a.proposal?.unknown && <p role="note">{a.proposal.unknown}</p>}
          <p className="quiet small">
            Rests on {a.change.explains.join(', ').replaceAll('_', ' ')}; a {a.change.confidence} rule. {a.change.then}
          </p>
        </>
      ) : (
        <p className={classes.verdictLine}>{a.signs.length ? 'Nothing to turn yet.' : 'No change suggested.'}</p>
      )}
      {a.disagreement && (
        <p role="note" className={classes.apart}>
          {a.disagreement}
        </p>
      )}
      {a.missing.map((m) => (
        <p key={m}>{m}</p>
      ))}
      {a.signpost && <p>{a.signpost}</p>}
      {a.draft && a.recipe_id && (
        <div className={classes.keepRow}>
          <Button loading={keep.isPending} disabled={isEarlier} onClick={() => keep.mutate()}>
            Keep as the next version of {a.recipe_name}
          </Button>
          <Link to={`/recipes/${a.recipe_id}`}>Open the recipe</Link>
        </div>
      )}
      {a.draft && !a.recipe_id && <p className="quiet small">This setup has no recipe to keep it in.</p>}
      {a.others.length > 0 && (
        <details>
          <summary>Also considered</summary>
          <ul>
            {a.others.map((o) => (
              <li key={o.code}>
                {o.text}: {o.reason}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  );
}

const shown = (value: number | null, unit: string) =>
  value === null ? '–' : unit === 's' ? clock(value) : `${fixed(value, unit === '%' ? 1 : 2)} ${unit}`;

function windowOf({ low, high, unit }: { low: number | null; high: number | null; unit: string }): string {
  const one = (v: number) => (unit === 's' ? clock(v) : String(v));
  if (low === null) return `at most ${one(high!)}`;
  return high === null ? `at least ${one(low)}` : `${one(low)} to ${one(high)}`;
}
