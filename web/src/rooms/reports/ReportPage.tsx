import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { LikingIntervals } from '../../charts/liking/LikingIntervals';
import { LikingCurve } from '../../charts/verdict/LikingCurve';
import { Loaded } from '../../ui/Loading';
import { fixed } from '../../ui/numbers';
import { pairingQuery } from '../verdicts/queries';
import { MeasuredTable } from '../verdicts/Tables';
import { type Report, reportQuery } from './queries';
import classes from './Report.module.css';

/** A trial on one or two pages, as it is printed. */
export function ReportPage() {
  const { id = '' } = useParams();
  const report = useQuery(reportQuery(id));
  return (
    <Loaded query={report}>
      {(r) => (
        <div className={classes.whole}>
          <div className={classes.tools}>
            <Button onClick={() => window.print()}>Print</Button>
            <Button
              component="a"
              variant="default"
              href={`/api/v1/trials/${id}/report.pdf`}
              download={`trial-${r.number}.pdf`}
            >
              PDF
            </Button>
            <Button
              component="a"
              variant="default"
              href={`/api/v1/trials/${id}/report.md`}
              download={`trial-${r.number}.md`}
            >
              Markdown
            </Button>
            <Button
              component="a"
              variant="default"
              href={`/api/v1/trials/${id}/scores.csv`}
              download={`trial-${r.number}-scores.csv`}
            >
              Scores, CSV
            </Button>
            <Link to={`/trials/${id}/verdict`}>Back to the verdict</Link>
          </div>
          <article className={`paper ${classes.page}`}>
            <Head report={r} />
            {r.judged.length > 0 && (
              <section aria-labelledby="liked">
                <h2 id="liked">Liking, 1 to 9, with 95 % intervals</h2>
                <LikingIntervals setups={r.judged} />
                <MeasuredTable setups={r.judged} />
              </section>
            )}
            <Peaks trialId={id} />
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
        </div>
      )}
    </Loaded>
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
      <h1>
        {r.sighted_only && 'With labels in sight only: '}
        {r.headline ?? 'No verdict yet'}
      </h1>
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

/** The curves that say something of a peak. */
function Peaks({ trialId }: { trialId: string }) {
  const { data } = useQuery(pairingQuery(trialId, 'liking'));
  const curves = data?.curves.filter((c) => c.kind === 'peak' || c.kind === 'no_peak') ?? [];
  if (!curves.length) return null;
  return (
    <section className={classes.peaks} aria-label="Liking against what was measured">
      {curves.slice(0, 2).map((c) => (
        <div key={c.measure + c.group}>
          <LikingCurve curve={c} attribute="Liking" />
          <p className="small">
            {c.group && <b>{c.group}: </b>}
            {c.text}
          </p>
        </div>
      ))}
    </section>
  );
}
