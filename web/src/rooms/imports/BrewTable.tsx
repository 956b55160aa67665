import { Button } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { Far } from '../../ui/Far';
import { type HowFar, readThenWritten } from '../../ui/howFar';
import { Lines } from '../../ui/Lines';
import { clock, dayAndTime, fixed, plural } from '../../ui/numbers';
import { tellDone } from '../../ui/tell';
import { heat } from '../../ui/units';
import { useSend } from '../../ui/useSend';
import classes from './Import.module.css';
import { bringsIn } from './meanings';
import { type BrewTableRead, bringIn, lookAt } from './queries';
import { Faults, TableGiven, useTable } from './TableParts';

/** An old table of brews: what its columns mean, what each row becomes, and what is wrong with it, before anything is written. */
export function BrewTable() {
  const table = useTable(lookAt);
  const [leaveOut, setLeaveOut] = useState(false);
  const client = useQueryClient();
  const [far, setFar] = useState<HowFar | null>(null);
  const write = useSend(
    () =>
      bringIn({ ...table.given!, leave_out_faulty: leaveOut, note: '' }, (done, of) => {
        setFar({ done, of });
      }),
    {
      onDone: (done) => {
        tellDone(`${plural(done.brews, 'brew')} and ${plural(done.readings, 'reading')} are on the bench.`);
        client.invalidateQueries();
        table.again();
      },
    },
  );
  return (
    <TableGiven table={table} rows="a row for each brew">
      {(read) => (
        <>
          <Faults read={read} leaveOut={leaveOut} onLeaveOut={setLeaveOut} />
          <div className={classes.go}>
            <Button
              size="md"
              disabled={!bringsIn(read, leaveOut).can || !table.look.isSettled}
              loading={write.isPending}
              onClick={() => {
                setFar(null);
                write.mutate();
              }}
            >
              {bringsIn(read, leaveOut).text}
            </Button>
            {read.here > 0 && (
              <span className="quiet">
                {plural(read.here, 'row')} {read.here === 1 ? 'is' : 'are'} already on this bench.{' '}
                <Link to="/brews">All brews</Link>
              </span>
            )}
          </div>
          {write.isPending && (
            <Far far={far} label="How far the import is" before="Reading the table" told={readThenWritten} />
          )}
          <Becomes read={read} />
        </>
      )}
    </TableGiven>
  );
}

/** The first rows as the brews they will be. */
function Becomes({ read }: { read: BrewTableRead }) {
  if (!read.becomes.length) return null;
  return (
    <section aria-labelledby="becomes">
      <h2 id="becomes">
        {read.becomes.length < read.ready ? `The first ${read.becomes.length} of ${read.ready} brews` : 'The brews'}
      </h2>
      {read.new_kit.length > 0 && <p className="small">New in the kit: {read.new_kit.join(', ')}.</p>}
      <Lines label="Brews as they will be">
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">row</th>
              <th scope="col">day</th>
              <th scope="col">coffee</th>
              <th scope="col">kit</th>
              <th scope="col">dose, g</th>
              <th scope="col">water, g</th>
              <th scope="col">beverage, g</th>
              <th scope="col">at</th>
              <th scope="col">time</th>
              <th scope="col">TDS, %</th>
              <th scope="col">liked</th>
            </tr>
          </thead>
          <tbody>
            {read.becomes.map((b) => (
              <tr key={b.row}>
                <th scope="row" className="num">
                  {b.row}
                </th>
                <td>{b.brewed_at ? dayAndTime(b.brewed_at) : 'today'}</td>
                <td>{[b.name, b.coffee].filter(Boolean).join(' · ')}</td>
                <td>{b.kit}</td>
                <td className="num">{fixed(b.dose_g, 1)}</td>
                <td className="num">{fixed(b.brew_water_g, 0)}</td>
                <td className="num">{fixed(b.beverage_g, 0)}</td>
                <td className="num">{b.temperature_c === null ? '–' : heat(b.temperature_c)}</td>
                <td className="num">{clock(b.total_time_s)}</td>
                <td className="num">{b.tds_pct.map((t) => fixed(t)).join(' ') || '–'}</td>
                <td className="num">{b.liking ?? '–'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Lines>
    </section>
  );
}
