import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { ATTRIBUTES, LIKING } from '../../api/vocabulary';
import { Loaded } from '../../ui/Loading';
import { heatUnit, scaldsAbove } from '../../ui/units';
import { setUpQuery } from '../trials/queries';
import { JAR_STEPS } from './Cup';
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
        Taste in this order, without talking.{' '}
        {flight.options.cleanser ? 'Water or a plain cracker between cups. ' : 'Rest between cups. '}Leave blank what
        you cannot say. Hot liquid scalds: taste below {scaldsAbove()}. Spit if you like. Tell the host of allergies.
      </p>
      {flight.method === 'scores' ? (
        (passes.length ? passes : ['']).map((pass) => <ScoreTable key={pass} flight={flight} seat={seat} pass={pass} />)
      ) : (
        <RoundTable flight={flight} seat={seat} />
      )}
      {flight.method !== 'scores' && flight.blinding !== 'open' && (
        <p>Recognised cups by sight: {flight.method === 'ranking' ? 'yes / no' : 'no / yes, in round …'}</p>
      )}
      {flight.method === 'scores' && flight.options.guess && <GuessLines flight={flight} seat={seat} />}
    </section>
  );
}

const LikingLine = () => <Line head="Liking" steps={stepsOf(LIKING)} ends={['dislike', 'like']} />;

/** One block a cup with all that the phone asks. */
function ScoreTable({ flight, seat, pass }: { flight: Flight; seat: Flight['sheets'][number]; pass: string }) {
  const attributes = ATTRIBUTES.filter((a) => (flight.attributes as string[]).includes(a.code));
  const jar = ATTRIBUTES.filter((a) => (flight.options.jar as string[]).includes(a.code));
  return (
    <>
      {pass && <h2>{pass} pass</h2>}
      <div className={classes.cups}>
        {seat.order.map((code) => (
          <table key={code}>
            <caption>Cup {code}</caption>
            <tbody>
              {flight.options.sip_temperature && <Line head={`first sip, ${heatUnit()}`} />}
              {!flight.options.liking_last && <LikingLine />}
              {attributes.map((a) => (
                <Line key={a.code} head={a.label} steps={stepsOf(a)} ends={[a.low_word, a.high_word]} />
              ))}
              {flight.options.liking_last && <LikingLine />}
              {jar.map((a) => (
                <Line key={a.code} head={`${a.label}: just about right?`} steps={JAR_STEPS.map(([, words]) => words)} />
              ))}
              <Line head="words" />
              {flight.blinding !== 'open' && <Line head="recognised by sight?" steps={['yes', 'no']} />}
            </tbody>
          </table>
        ))}
      </div>
    </>
  );
}

const stepsOf = (scale: { low: number; high: number; step: number }) =>
  Array.from({ length: Math.round((scale.high - scale.low) / scale.step) + 1 }, (_, i) =>
    String(scale.low + i * scale.step),
  );

function Line({ head, steps, ends }: { head: string; steps?: string[]; ends?: readonly [string, string] }) {
  return (
    <tr>
      <th scope="row">{head}</th>
      <td className={steps ? undefined : classes.blank}>
        {steps && (
          <>
            {ends && <i>{ends[0]} </i>}
            <span className={classes.steps}>
              {steps.map((step) => (
                <span key={step}>{step}</span>
              ))}
            </span>
            {ends && <i> {ends[1]}</i>}
          </>
        )}
      </td>
    </tr>
  );
}

/** Which is which, after everything else. */
function GuessLines({ flight, seat }: { flight: Flight; seat: Flight['sheets'][number] }) {
  const { data } = useQuery(setUpQuery(flight.trial_id));
  return (
    <table>
      <caption>
        Which is which? Write a letter, if you like: {data?.setups.map((s) => `${s.letter} ${s.name}`).join(', ')}
      </caption>
      <tbody>
        {seat.order.map((code) => (
          <Line key={code} head={code} />
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
