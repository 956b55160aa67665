import { Button } from '@mantine/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { fixed } from '../../ui/numbers';
import { useTellDeleted } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { DoseForm } from './DoseForm';
import classes from './Grind.module.css';
import { type Dose, type GrindRoom, removeDose } from './queries';

/** How fast, and what stays inside: a line for each grinder, its doses behind it. */
export function Doses({ room }: { room: GrindRoom }) {
  const [open, setOpen] = useState<Dose | 'new' | null>(null);
  const tellDeleted = useTellDeleted();
  const remove = useSend((id: string) => removeDose(id), { onDone: (done) => tellDeleted('The dose', done.change_id) });
  return (
    <section className="card" aria-labelledby="doses">
      <div className={classes.cardHead}>
        <h2 id="doses">Speed and what stays inside</h2>
        <Button variant="default" disabled={!room.dials.length} onClick={() => setOpen('new')}>
          Grind a dose
        </Button>
      </div>
      {room.ground.length === 0 && (
        <p className="quiet">Time a dose, weigh what comes out: seconds a dose, grams left inside, what to purge.</p>
      )}
      {room.ground.map((g) => (
        <details key={g.dial_id} className={classes.ground}>
          <summary>
            <b>{g.dial}</b>
            <span>{g.said}</span>
          </summary>
          <p className="small">
            {g.rate_g_s && `${fixed(g.rate_g_s.interval[0], 2)} to ${fixed(g.rate_g_s.interval[1], 2)} g/s. `}
            {g.stays_g && `${fixed(g.stays_g.interval[0], 1)} to ${fixed(g.stays_g.interval[1], 1)} g stays. `}
            {g.exchange_g && `${fixed(g.exchange_g.value, 1)} g came out with the next dose. `}
            <Link to={`/kit/card/${g.dial_id}`}>Its card</Link>
          </p>
          <ul className={classes.doseLines}>
            {room.doses
              .filter((d) => d.dial_id === g.dial_id)
              .map((d) => (
                <li key={d.id}>
                  <span className="num">{doseWords(d)}</span>
                  <Button size="compact-xs" variant="subtle" onClick={() => setOpen(d)}>
                    correct
                  </Button>
                  <Button size="compact-xs" variant="subtle" color="red" onClick={() => remove.mutate(d.id)}>
                    delete
                  </Button>
                </li>
              ))}
          </ul>
        </details>
      ))}
      {open && <DoseForm room={room} dose={open === 'new' ? null : open} onClose={() => setOpen(null)} />}
    </section>
  );
}

function doseWords(d: Dose): string {
  const parts = [`${fixed(d.beans_in_g, 1)} g in`];
  if (d.setting_written) parts.push(`at ${d.setting_written}`);
  if (d.grinding_s !== null && d.rate_g_s !== null)
    parts.push(`${fixed(d.grinding_s, 1)} s, ${fixed(d.rate_g_s, 2)} g/s`);
  if (d.ground_out_g !== null) parts.push(`${fixed(d.ground_out_g, 1)} g out`);
  if (d.knocked_out_g !== null) parts.push(`${fixed(d.knocked_out_g, 1)} g knocked out`);
  if (d.source === 'simulated') parts.push('simulated');
  if (d.note) parts.push(d.note);
  return parts.join(' · ');
}
