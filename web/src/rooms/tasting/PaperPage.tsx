import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { Loaded } from '../../ui/Loading';
import classes from './Paper.module.css';
import { type Flight, flightQuery } from './queries';

/** Score sheets and cup labels on paper. Codes only: whoever prints them learns nothing. */
export function PaperPage() {
  const { id = '' } = useParams();
  const flight = useQuery(flightQuery(id));
  return (
    <Loaded query={flight}>
      {(f) => (
        <div className={classes.whole}>
          <div className={classes.tools}>
            <Button onClick={() => window.print()}>Print</Button>
            <Link to={`/trials/${f.trial_id}/taste`}>Back to the flight</Link>
            <span className="quiet small">
              What is written on paper is entered afterwards from the flight: “Enter from paper”.
            </span>
          </div>
          <Labels flight={f} />
          {f.sheets.map((s) => (
            <PaperSheet key={s.id} flight={f} seat={s} />
          ))}
        </div>
      )}
    </Loaded>
  );
}

/** One label a cup, in the order each taster meets them. */
function Labels({ flight }: { flight: Flight }) {
  return (
    <section className={`paper ${classes.sheet}`} aria-labelledby="labels">
      <h1 id="labels">Cup labels, flight {flight.number}</h1>
      {flight.sheets.map((s) => (
        <div key={s.id} className={classes.labels}>
          {s.order.map((code, i) => (
            <span key={code} className={classes.label}>
              <b>{code}</b>
              <small>
                {s.name} · {i + 1}
              </small>
            </span>
          ))}
        </div>
      ))}
    </section>
  );
}

function PaperSheet({ flight, seat }: { flight: Flight; seat: Flight['sheets'][number] }) {
  const passes = flight.passes.filter((p) => p.asked).map((p) => p.name);
  return (
    <section className={`paper ${classes.sheet}`} aria-label={`Score sheet of ${seat.name}`}>
      <header>
        <h1>{seat.name}</h1>
        <span>
          Flight {flight.number} · {flight.method_label.toLowerCase()}
        </span>
      </header>
      <p>
        Taste from top to bottom, without talking. Water or a cracker between cups. Leave blank what you cannot say.
      </p>
      {flight.method === 'scores' ? (
        (passes.length ? passes : ['']).map((pass) => <ScoreTable key={pass} flight={flight} seat={seat} pass={pass} />)
      ) : (
        <RoundTable flight={flight} seat={seat} />
      )}
    </section>
  );
}

const STEPS = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10];

function ScoreTable({ flight, seat, pass }: { flight: Flight; seat: Flight['sheets'][number]; pass: string }) {
  return (
    <table>
      {pass && <caption>{pass} pass</caption>}
      <thead>
        <tr>
          <th>cup</th>
          {flight.attributes.map((a) => (
            <th key={a}>{a}, 0–10</th>
          ))}
          <th>liking, 1–9</th>
          <th>words</th>
        </tr>
      </thead>
      <tbody>
        {seat.order.map((code) => (
          <tr key={code}>
            <th>{code}</th>
            {flight.attributes.map((a) => (
              <td key={a}>{STEPS.join(' ')}</td>
            ))}
            <td>{STEPS.slice(1, 10).join(' ')}</td>
            <td className={classes.blank} />
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const ASKED: Record<Flight['method'], string> = {
  scores: '',
  ranking: 'place, best is 1',
  paired: 'circle the one you prefer, or write “none”',
  triangle: 'circle the odd one',
  duo_trio: 'circle the one like the reference R',
  two_afc: 'circle the one with more',
  tetrad: 'circle two that belong together',
};

function RoundTable({ flight, seat }: { flight: Flight; seat: Flight['sheets'][number] }) {
  const round = (code: string) => flight.cups.find((c) => c.code === code)!.round;
  const rounds = [...new Set(seat.order.map(round))];
  const named = flight.options.named_attribute ? ` ${flight.options.named_attribute}` : '';
  return (
    <table>
      <thead>
        <tr>
          <th>{flight.method === 'ranking' ? 'cup' : 'round'}</th>
          <th>
            {ASKED[flight.method]}
            {flight.method === 'two_afc' && named}
          </th>
        </tr>
      </thead>
      <tbody>
        {flight.method === 'ranking'
          ? seat.order.map((code) => (
              <tr key={code}>
                <th>{code}</th>
                <td className={classes.blank} />
              </tr>
            ))
          : rounds.map((n) => (
              <tr key={n}>
                <th>{n}</th>
                <td className={classes.big}>{seat.order.filter((c) => round(c) === n).join('    ')}</td>
              </tr>
            ))}
      </tbody>
    </table>
  );
}
