import { Button, Checkbox, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ChartCard } from '../../charts/ChartCard';
import { Loaded } from '../../ui/Loading';
import { dayAndTime, fixed, plural } from '../../ui/numbers';
import { apartIn, apartUnit } from '../../ui/units';
import { DrillsCard } from './DrillsCard';
import { NewSeries } from './NewSeries';
import classes from './Palate.module.css';
import { axisOf, PanelCard } from './PanelCard';
import { type PalateRoom, palateQuery, type Session, type Taster } from './queries';
import { ThresholdCurve } from './ThresholdCurve';

/** What the people of this bench can tell apart: series of known steps, the panel's threshold, and how tasters repeat themselves. */
export function PalatePage() {
  const room = useQuery(palateQuery);
  const [making, setMaking] = useState(false);
  const navigate = useNavigate();
  return (
    <main className={classes.page}>
      <header className={classes.head}>
        <div>
          <h1>Palate</h1>
          <p className="quiet">The smallest step each taster can tell, and so the smallest a comparison can show.</p>
        </div>
        <Button size="md" onClick={() => setMaking(true)}>
          New series
        </Button>
      </header>
      <Loaded query={room}>
        {(r) =>
          r.sessions.length || r.scoring.length ? (
            <Room room={r} />
          ) : (
            <div className={classes.bench}>
              <None />
              <DrillsCard />
            </div>
          )
        }
      </Loaded>
      {making && <NewSeries onClose={() => setMaking(false)} onMade={(made) => navigate(`/palate/${made.id}`)} />}
    </main>
  );
}

function None() {
  return (
    <section className={`card ${classes.none}`}>
      <h2>No series yet</h2>
      <p>
        Dilute one brew in known steps and let each taster say which of two cups is stronger. After eight pairs this
        room says how small a step they tell apart; each further pair narrows it. Plan then warns of a ladder whose
        steps nobody here can taste.
      </p>
    </section>
  );
}

function Room({ room }: { room: PalateRoom }) {
  const [named, setNamed] = useState(false);
  const [who, setWho] = useState<string | null>(null);
  const shown = room.tasters.find((t) => keyOf(t) === who) ?? room.tasters[0];
  return (
    <div className={classes.bench}>
      <div className={classes.column}>
        {!room.sessions.length && <None />}
        {room.panels.map((p) => (
          <PanelCard key={p.axis} panel={p} tasters={room.tasters} />
        ))}
        {(shown || room.scoring.length > 0) && (
          <Checkbox
            label="Show each taster by name"
            checked={named}
            onChange={(e) => setNamed(e.currentTarget.checked)}
          />
        )}
        {shown && named && (
          <>
            <Tasters tasters={room.tasters} />
            <ChartCard
              label={`${shown.name}, ${axisOf(shown.axis).word.toLowerCase()}`}
              name="palate"
              notes={[shown.text]}
              controls={
                <Select
                  aria-label="Taster"
                  allowDeselect={false}
                  value={keyOf(shown)}
                  onChange={setWho}
                  data={room.tasters.map((t) => ({
                    value: keyOf(t),
                    label: `${t.name}, ${axisOf(t.axis).word.toLowerCase()}`,
                  }))}
                />
              }
              table={{ rows: shown.at_steps, columns: stepColumns(shown) }}
            >
              <ThresholdCurve taster={shown} />
              <p className="quiet small">
                The mark is the step told apart three times in four, the bar its 95 % interval. {shown.more}
              </p>
            </ChartCard>
          </>
        )}
      </div>
      <div className={classes.column}>
        {room.sessions.length > 0 && <Sessions sessions={room.sessions} />}
        <DrillsCard />
        {room.scoring.length > 0 && named && <Scoring room={room} />}
      </div>
    </div>
  );
}

const keyOf = (t: Taster) => `${t.person_id}:${t.axis}`;

const stepColumns = ({ unit }: Taster) => [
  {
    head: `step, ${apartUnit(unit)}`,
    of: (a: Taster['at_steps'][number]) => String(apartIn(a.step, unit)),
  },
  { head: 'right', of: (a: Taster['at_steps'][number]) => String(a.right) },
  { head: 'of', of: (a: Taster['at_steps'][number]) => String(a.of) },
];

/** By name, never by how well they tell. */
function Tasters({ tasters }: { tasters: Taster[] }) {
  return (
    <section className="card" aria-label="Tasters">
      <ul className={classes.tasters}>
        {tasters.map((t) => (
          <li key={keyOf(t)}>
            <b>{t.name}</b>
            <span className="quiet small">{axisOf(t.axis).word}</span>
            <span>{t.text}</span>
            {t.more && <span className="quiet small">{t.more}</span>}
            {t.months.length > 1 && (
              <span className="quiet small">
                {t.months
                  .map(
                    (m) => `${m.month}: ${fixed(m.told, 1)} (${fixed(m.interval[0], 1)} to ${fixed(m.interval[1], 1)})`,
                  )
                  .join(' · ')}
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Sessions({ sessions }: { sessions: Session[] }) {
  return (
    <section className="card" aria-labelledby="series">
      <h2 id="series">Series</h2>
      <ul className={classes.sessions}>
        {sessions.map((s) => (
          <li key={s.id}>
            <Link to={`/palate/${s.id}`}>
              {axisOf(s.axis).word}: {s.served}
            </Link>
            <span className="quiet small">
              {dayAndTime(s.made_at)} · {s.closed_at ? 'closed' : 'open'} ·{' '}
              {plural(
                s.seats.reduce((n, seat) => n + seat.answered, 0),
                'answer',
              )}{' '}
              of {plural(s.seats.length, 'taster')}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** In ordinary flights: how they use the scale, go with the others and repeat themselves. */
function Scoring({ room }: { room: PalateRoom }) {
  return (
    <section className="card" aria-labelledby="scoring">
      <h2 id="scoring">In blind flights</h2>
      <p className="quiet small">For information only: to differ is not to be wrong, and all scores count alike.</p>
      <ul className={classes.tasters}>
        {room.scoring.map((r) => (
          <li key={r.person_id}>
            <b>{r.name}</b>
            <span>{r.text}</span>
            {r.repeat_interval && (
              <span className="quiet small num">
                {fixed(r.repeat_interval[0], 1)} to {fixed(r.repeat_interval[1], 1)} points apart, by{' '}
                {plural(r.duplicates, 'hidden duplicate')}
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
