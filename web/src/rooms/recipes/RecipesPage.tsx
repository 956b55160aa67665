import { Button, Checkbox } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { Loaded } from '../../ui/Loading';
import { clock, fixed, plural } from '../../ui/numbers';
import { heat, ratio } from '../../ui/units';
import { DeletedLately } from '../history/DeletedLately';
import { type RecipeListed, recipesQuery } from './queries';
import classes from './Recipes.module.css';

const MOST_COMPARED = 4;

/** Every recipe, each with its stairs in small. */
export function RecipesPage() {
  const recipes = useQuery(recipesQuery);
  const [chosen, setChosen] = useState<string[]>([]);
  const toggle = (id: string) => setChosen((now) => (now.includes(id) ? now.filter((x) => x !== id) : [...now, id]));
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <h1>Recipes</h1>
        <div className={classes.headActions}>
          {chosen.length > 0 && (
            <Button variant="default" component={Link} to={`/recipes/compare?ids=${chosen.join(',')}`}>
              Compare {chosen.length > 1 ? plural(chosen.length, 'recipe') : 'with…'}
            </Button>
          )}
          <Button size="md" variant="default" component={Link} to="/recipes/handed">
            Import
          </Button>
          {(recipes.data?.recipes.length ?? 0) > 0 && (
            <Button
              size="md"
              variant="default"
              component="a"
              href={`/api/v1/recipes-export.json${chosen.length ? `?ids=${chosen.join(',')}` : ''}`}
              download
            >
              {chosen.length ? `Download ${plural(chosen.length, 'recipe')}` : 'Download all'}
            </Button>
          )}
          <Button size="md" component={Link} to="/recipes/new">
            Write a recipe
          </Button>
        </div>
      </header>
      <Loaded query={recipes}>
        {({ recipes: found }) =>
          found.length ? (
            <ul className={classes.shelf}>
              {found.map((r) => (
                <li key={r.id} className={classes.listed}>
                  <Link to={`/recipes/${r.id}`}>
                    <SmallStairs pours={r.pours} />
                    <b>{r.name}</b>
                    <span className="quiet small">
                      version {r.version}
                      {r.brewer_label && ` · ${r.brewer_label.toLowerCase()}`}
                      {r.draft && <b className={classes.draft}>draft</b>}
                      {r.concentrate && <b className={classes.concentrate}>concentrate</b>}
                    </span>
                    <span className="num">{amounts(r)}</span>
                  </Link>
                  <Checkbox
                    className={classes.pick}
                    aria-label={`Compare ${r.name}`}
                    checked={chosen.includes(r.id)}
                    disabled={!chosen.includes(r.id) && chosen.length >= MOST_COMPARED}
                    onChange={() => toggle(r.id)}
                  />
                </li>
              ))}
            </ul>
          ) : (
            <p className="card">No recipe yet. Paste one, begin from a starter, or write it step by step.</p>
          )
        }
      </Loaded>
      <DeletedLately />
    </main>
  );
}

function amounts(r: RecipeListed): string {
  const parts = [
    r.dose_g !== null && `${fixed(r.dose_g, 1)} g`,
    r.brew_ratio !== null && ratio(r.brew_ratio),
    r.temperature_c !== null && heat(r.temperature_c),
    clock(r.total_s),
  ];
  return parts.filter(Boolean).join(' · ');
}

/** The shape of a recipe: one stair a pour. */
function SmallStairs({ pours }: { pours: number[] }) {
  const most = Math.max(...pours, 1);
  const wide = 240 / Math.max(1, pours.length);
  return (
    <svg className={classes.smallStairs} viewBox="0 0 240 64" preserveAspectRatio="none" aria-hidden>
      {pours.map((g, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a stair is its place
        <g key={i}>
          <rect x={i * wide} y={64 - (58 * g) / most} width={wide - 2} height={(58 * g) / most} />
          <rect
            className={classes.smallTread}
            x={i * wide}
            y={64 - (58 * g) / most - 2}
            width={wide - 2}
            height={2.5}
          />
        </g>
      ))}
    </svg>
  );
}
