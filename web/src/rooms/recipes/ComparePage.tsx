import { ActionIcon, Select } from '@mantine/core';
import { IconX } from '@tabler/icons-react';
import { useQueries, useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { Staircase } from '../../charts/staircase/Staircase';
import { clock, fixed } from '../../ui/numbers';
import { heat, ratio } from '../../ui/units';
import { diffQuery, type Recipe, recipeQuery, recipesQuery } from './queries';
import classes from './Recipes.module.css';

const MOST_COMPARED = 4;

/** Recipes side by side, on one scale of time and of grams. */
export function ComparePage() {
  const [params, setParams] = useSearchParams();
  const ids = (params.get('ids') ?? '').split(',').filter(Boolean).slice(0, MOST_COMPARED);
  const { data: all } = useQuery(recipesQuery);
  const found = useQueries({ queries: ids.map((id) => recipeQuery(id)) }).flatMap((q) => q.data ?? []);
  const most_s =
    Math.max(0, ...found.map((r) => Math.max(r.checked.total_s, r.document.total_time_s?.[1] ?? 0))) * 1.02;
  const most_g = Math.max(0, ...found.map((r) => r.checked.poured_g + r.checked.bypass_g)) * 1.04;
  const show = (next: string[]) => setParams({ ids: next.join(',') }, { replace: true });
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <h1>Recipes side by side</h1>
        {ids.length < MOST_COMPARED && (
          <Select
            aria-label="Add a recipe"
            placeholder="Add a recipe"
            data={(all?.recipes ?? []).filter((r) => !ids.includes(r.id)).map((r) => ({ value: r.id, label: r.name }))}
            value={null}
            onChange={(id) => id && show([...ids, id])}
          />
        )}
      </header>
      {found.length === 0 && <p className="card">Choose the recipes to compare.</p>}
      <div className={classes.compare} style={{ '--columns': Math.max(2, found.length) } as React.CSSProperties}>
        {found.map((r, i) => (
          <article key={r.id} className="card" aria-label={r.name}>
            <div className={classes.compareHead}>
              <h2>
                <Link to={`/recipes/${r.id}`}>{r.name}</Link>
              </h2>
              <ActionIcon
                variant="subtle"
                aria-label={`Take ${r.name} away`}
                onClick={() => show(ids.filter((x) => x !== r.id))}
              >
                <IconX size={16} />
              </ActionIcon>
            </div>
            <p className={classes.against1}>
              {i === 0 ? (
                <span className="quiet">the others are compared with this one</span>
              ) : (
                <Differs from={found[0]!} to={r} />
              )}
            </p>
            <Staircase
              timeline={r.checked.timeline}
              total_s={r.checked.total_s}
              window_s={r.document.total_time_s}
              height={220}
              most_s={most_s}
              most_g={most_g}
            />
            <dl className={classes.facts}>
              <Row name="Dose" value={`${fixed(r.document.dose_g, 1)} g`} />
              <Row
                name="Water"
                value={`${fixed(r.checked.poured_g, 0)} g${r.checked.bypass_g ? ` + ${fixed(r.checked.bypass_g, 0)} g bypass` : ''}`}
              />
              <Row name="Ratio in" value={ratio(r.checked.brew_ratio)} />
              <Row name="Temperature" value={r.document.temperature_c == null ? '–' : heat(r.document.temperature_c)} />
              <Row name="Last pour ends" value={clock(r.checked.last_pour_end_s)} />
              <Row name="Whole brew" value={`about ${clock(r.checked.total_s)}`} />
              {r.checked.outlook && (
                <Row name="In the cup" value={`about ${fixed(r.checked.outlook.beverage_g, 0)} g`} />
              )}
            </dl>
            <ol className={classes.stepList}>
              {r.checked.timeline.map((t) => (
                <li key={t.index}>{t.text}</li>
              ))}
            </ol>
          </article>
        ))}
      </div>
    </main>
  );
}

function Differs({ from, to }: { from: Recipe; to: Recipe }) {
  const { data } = useQuery(diffQuery(from.document, to.document));
  return <b>{data?.headline ?? '…'}</b>;
}

function Row({ name, value }: { name: string; value: string }) {
  return (
    <div>
      <dt>{name}</dt>
      <dd className="num">{value}</dd>
    </div>
  );
}
