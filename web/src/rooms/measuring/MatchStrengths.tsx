import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Refused } from '../../api/client';
import { NumberField, numberOf, shownAtField, useForm } from '../../ui/fields';
import { Lines } from '../../ui/Lines';
import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { useSend } from '../../ui/useSend';
import classes from './Measure.module.css';
import { type Matching, matchingQuery, type ServerShown, serveRun } from './queries';

/** Which servers to thin by how much, before any cup gets a code. */
export function MatchStrengths({ trialId }: { trialId: string }) {
  const [target, setTarget] = useState('');
  const asked = readTarget(target);
  const found = useQuery(matchingQuery(trialId, asked));
  const refused = found.error instanceof Refused ? found.error.at('target_tds_pct') : undefined;
  const asIs = useQuery(matchingQuery(trialId, null));
  const m = found.data ?? asIs.data; // a target that cannot be leaves the plan for the weakest in view
  if (!m) return <p className="quiet">Reading the servers…</p>;
  if (m.servers.length < 2) {
    return <p className="quiet">Two brews with a strength and a beverage mass each can be brought to one strength.</p>;
  }
  return (
    <div className={classes.match}>
      <div className={classes.matchHead}>
        <p className={classes.verdictLine}>{summary(m)}</p>
        <NumberField
          label="Bring all to"
          unit="% TDS"
          placeholder={fixed(m.weakest_tds_pct)}
          value={target}
          onText={setTarget}
          error={refused}
          className={classes.target}
        />
      </div>
      <Lines label="Servers">
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">server</th>
              <th scope="col">as brewed</th>
              <th scope="col">add water</th>
              <th scope="col">makes</th>
              <th scope="col">as served</th>
              <th scope="col">note it</th>
            </tr>
          </thead>
          <tbody>
            {m.servers.map((server) => (
              <ServerRow key={`${server.run_id} ${m.target_tds_pct}`} server={server} />
            ))}
          </tbody>
        </table>
      </Lines>
      <p className="quiet small">
        Water of the drink's own temperature; stir, then read again. Yield does not change, and the reading as brewed
        stays. {m.unread.length > 0 && `Not read or not weighed: ${m.unread.join(', ')}.`}
      </p>
    </div>
  );
}

function readTarget(text: string): number | null {
  try {
    return numberOf('target_tds_pct', text);
  } catch {
    return null;
  }
}

function summary(m: Matching): string {
  const apart = `${fixed(m.apart_tds_pct)} % TDS apart`;
  if (!m.needed) return `One strength already: ${apart}, and up to ${fixed(m.within_tds_pct)} counts as one.`;
  return m.policy === 'matched'
    ? `As brewed they are ${apart}. Dilute to match the weakest before coding.`
    : `As brewed they are ${apart}. This trial tastes them as brewed; match them when the question is about equipment.`;
}

function ServerRow({ server }: { server: ServerShown }) {
  const form = useForm({
    added_water_g: server.served ? String(server.served.added_water_g) : fixed(server.add_water_g, 1),
    tds_pct: server.served?.confirmed ? String(server.served.tds_pct) : '',
  });
  const save = useSend(
    async () =>
      serveRun(server, {
        added_water_g: numberOf('added_water_g', form.values.added_water_g) ?? 0,
        tds_pct: numberOf('tds_pct', form.values.tds_pct),
      }),
    { onTrouble: shownAtField(form.setRefused) },
  );
  const { served } = server;
  return (
    <tr>
      <th scope="row">
        <span className={classes.brewName}>
          <Penny stamp={server.letter} size={26} />
          {server.label}
        </span>
      </th>
      <td className="num">
        {fixed(server.beverage_g, 1)} g · {fixed(server.tds_pct)} %
      </td>
      <td className={`num ${classes.add}`}>
        {server.add_water_g < 0.05 ? 'none' : `${fixed(server.add_water_g, 1)} g`}
      </td>
      <td className="num">
        {fixed(server.final_beverage_g, 1)} g · {fixed(server.final_tds_pct)} %
      </td>
      <td className="num">
        {served ? (
          <>
            {fixed(served.tds_pct)} %{' '}
            <span className="quiet small">{served.confirmed ? 'read again' : 'by its masses'}</span>
            {served.doubt && (
              <p className={classes.doubts} role="status">
                {served.doubt}
              </p>
            )}
          </>
        ) : (
          <span className="quiet">not yet</span>
        )}
      </td>
      <td>
        <form
          className={classes.serve}
          onSubmit={(e) => {
            e.preventDefault();
            save.mutate();
          }}
        >
          <NumberField
            size="xs"
            aria-label={`Water added to ${server.label}`}
            unit="g"
            value={form.values.added_water_g}
            onText={(t) => form.set('added_water_g', t)}
            error={form.refused?.at('added_water_g')}
          />
          <NumberField
            size="xs"
            aria-label={`Second reading of ${server.label}`}
            placeholder="read again"
            unit="%"
            value={form.values.tds_pct}
            onText={(t) => form.set('tds_pct', t)}
            error={form.refused?.at('tds_pct')}
          />
          <Button size="compact-sm" variant="light" type="submit" loading={save.isPending}>
            Diluted
          </Button>
        </form>
      </td>
    </tr>
  );
}
