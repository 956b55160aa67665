import type { ReactNode } from 'react';
import { LikingIntervals } from '../../charts/liking/LikingIntervals';
import { fixed } from '../../ui/numbers';
import { MeasuredTable } from '../verdicts/Tables';
import type { Report } from './queries';
import classes from './Report.module.css';

/** The report as it stands on paper, and as whoever has a link reads it. peaks: curves that only the bench itself can draw. */
export function ReportPaper({ report: r, peaks }: { report: Report; peaks?: ReactNode }) {
  const averaged = !r.by_group.length;
  return (
    <article className={`paper ${classes.page}`}>
      <Head report={r} />
      {r.judged.length > 0 && (
        <section aria-labelledby="liked">
          {averaged ? (
            <>
              <h2 id="liked">Liking, 1 to 9, with 95 % intervals</h2>
              <LikingIntervals setups={r.judged} />
            </>
          ) : (
            <>
              <h2 id="liked">Liking by group</h2>
              <ul className={classes.rows}>
                {r.by_group.map((text) => (
                  <li key={text}>{text}</li>
                ))}
              </ul>
            </>
          )}
          <MeasuredTable setups={r.judged} />
        </section>
      )}
      {peaks}
      <Rows title="What else was found" rows={r.findings} />
      <Rows title="Next" rows={r.next ? [r.next] : []} />
      <Rows title="How it was done" rows={r.method} />
      <section aria-labelledby="setups">
        <h2 id="setups">Setups</h2>
        {r.shared.length > 0 && <p className="small">In all: {r.shared.join(', ')}.</p>}
        <ul className={classes.rows}>
          {r.setups.map((s) => (
            <li key={s.letter}>
              <b>
                {s.letter} {s.name}
              </b>{' '}
              {s.variables.join(', ')}
              {s.price !== null && `; ${fixed(s.price)} a cup`}
              {s.minutes !== null && `, ${fixed(s.minutes, 1)} min`}
            </li>
          ))}
        </ul>
      </section>
      <section aria-labelledby="weak">
        <h2 id="weak">What weakens it</h2>
        <ul className={classes.rows}>
          {r.caveats.map((c) => (
            <li key={c.code + c.field}>
              <b>{c.title}.</b> {c.text} <i>{c.cure}</i>
            </li>
          ))}
          {!r.caveats.length && <li>Nothing that the bench knows of.</li>}
        </ul>
      </section>
      <section aria-labelledby="flights">
        <h2 id="flights">Flights and seals</h2>
        <ul className={classes.rows}>
          {r.flights.map((f) => (
            <li key={f.number}>
              Flight {f.number}: {f.text}
              {f.commitment && (
                <code className={classes.seal}>
                  {f.commitment} {f.holds && 'holds'}
                </code>
              )}
            </li>
          ))}
        </ul>
      </section>
    </article>
  );
}

function Head({ report: r }: { report: Report }) {
  return (
    <header>
      <p className="quiet small">
        {r.bench} · trial {r.number} ·{' '}
        {new Date(r.made_at).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })}
      </p>
      <p className={classes.asked}>{r.question}</p>
      <h1>{r.headline ?? 'No verdict yet'}</h1>
      <p>
        {r.text} {r.lean}
      </p>
      {r.grade && (
        <p className={classes.grade}>
          <b>Design: {r.grade.design}</b> ({r.grade.step} of 5). {r.grade.reasons.map((x) => x.text).join(' ')}
        </p>
      )}
    </header>
  );
}

function Rows({ title, rows }: { title: string; rows: string[] }) {
  if (!rows.length) return null;
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      <ul className={classes.rows}>
        {rows.map((row) => (
          <li key={row}>{row}</li>
        ))}
      </ul>
    </section>
  );
}
