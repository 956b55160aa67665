import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { fixed } from '../../ui/numbers';
import classes from './Kit.module.css';
import { learntQuery } from './queries';

/** The simulator calibrated to this brewer's own brews, with what it still gets wrong. */
export function Learnt({ id }: { id: string }) {
  const [open, setOpen] = useState(false);
  const learnt = useQuery({ ...learntQuery(id), enabled: open });
  if (!open) {
    return (
      <Button mt="sm" size="compact-sm" variant="default" onClick={() => setOpen(true)}>
        Teach the simulator by its brews
      </Button>
    );
  }
  if (learnt.error) return <p className="quiet">{learnt.error.message}</p>;
  if (!learnt.data) return <p className="quiet">Simulating its brews…</p>;
  const { brews, parameters, before, after, residuals } = learnt.data;
  return (
    <section className={classes.learnt} aria-label="What the simulator learnt">
      <h3>Learnt from {brews} brews</h3>
      <p>
        A usual miss was <b className="num">{fixed(before, 1)}</b> spreads, and is{' '}
        <b className="num">{fixed(after, 1)}</b> with
        {parameters.map((p, i) => (
          <span key={p.code}>
            {i ? ', ' : ' '}
            {p.label} <b className="num">{fixed(p.learnt, 2)}</b>{' '}
            <span className="quiet">({fixed(p.usual, 2)} before)</span>
          </span>
        ))}
        .
      </p>
      <div className={classes.residuals}>
        <table>
          <thead>
            <tr>
              <th scope="col">brew, observed minus predicted</th>
              <th scope="col">% TDS</th>
              <th scope="col">drink, g</th>
              <th scope="col">time, s</th>
            </tr>
          </thead>
          <tbody>
            {residuals.map((r) => (
              <tr key={r.label}>
                <th scope="row">{r.label}</th>
                <td className="num">{signed(r.tds_pct, 2)}</td>
                <td className="num">{signed(r.beverage_g, 1)}</td>
                <td className="num">{signed(r.total_s, 0)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="quiet small">
        A spread is what repeated brews differ by: 0.03 % TDS, 3 g, 8 s. Every grind is taken as medium, so the bed
        carries what that leaves open.
      </p>
    </section>
  );
}

const signed = (value: number | null, places: number) =>
  value === null ? '–' : `${value > 0 ? '+' : ''}${fixed(value, places)}`;
