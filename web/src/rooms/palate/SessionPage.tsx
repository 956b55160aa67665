import { Button, CopyButton } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from 'react-router';
import { Confirm } from '../../ui/Confirm';
import { Loaded } from '../../ui/Loading';
import { fixed, plural } from '../../ui/numbers';
import { apartIn, apartUnit } from '../../ui/units';
import { useSend } from '../../ui/useSend';
import { LetIn } from '../people/LetIn';
import { isOnThisMachine } from '../tasting/reach';
import classes from './Palate.module.css';
import { PanelCard } from './PanelCard';
import { closeSession, type PalateRoom, palateQuery, removeSession, type Session } from './queries';

/** One series: how its cups are prepared, who answers where, and when it is over. */
export function SessionPage() {
  const { id = '' } = useParams();
  const room = useQuery(palateQuery);
  return (
    <main className={classes.page}>
      <Loaded query={room}>
        {(r) => {
          const session = r.sessions.find((s) => s.id === id);
          return session ? <Whole session={session} room={r} /> : <p>This series is not here, or it was deleted.</p>;
        }}
      </Loaded>
    </main>
  );
}

function Whole({ session, room }: { session: Session; room: PalateRoom }) {
  const close = useSend(closeSession);
  const remove = useSend(removeSession, { leaves: true, onDone: () => navigate('/palate') });
  const navigate = useNavigate();
  const open = session.closed_at === null;
  return (
    <>
      <header className={classes.head}>
        <div>
          <h1>{session.question}</h1>
          <p className="quiet">
            {session.served}
            {session.tds_pct !== null && ` · ${fixed(session.tds_pct)} % TDS`} · {open ? 'open' : 'closed'}
          </p>
        </div>
        <div className={`${classes.tools} no-print`}>
          <Link to="/palate">All of Palate</Link>
          <Button variant="default" onClick={() => window.print()}>
            Print
          </Button>
          {open && (
            <Button loading={close.isPending} onClick={() => close.mutate(session.id)}>
              Close the series
            </Button>
          )}
        </div>
      </header>
      <div className={classes.two}>
        {open ? <Prepare session={session} /> : <Told session={session} room={room} />}
        <section className="card" aria-labelledby="seats">
          <h2 id="seats">Tasters</h2>
          <ul className={classes.seats}>
            {session.seats.map((seat) => (
              <li key={seat.id}>
                <span>
                  <b>{seat.name}</b>
                  <span className="num small">{plural(seat.answered, 'answer')}</span>
                </span>
                {seat.link && (
                  <>
                    <img
                      src={`/api/v1/palate-seats/${seat.id}/qr.svg`}
                      alt={`QR code of ${seat.name}'s link`}
                      width={112}
                      height={112}
                    />
                    <span className={classes.links}>
                      <CopyButton value={seat.link}>
                        {({ copied, copy }) => (
                          <Button variant="default" size="compact-sm" onClick={copy}>
                            {copied ? 'Copied' : 'Copy the link'}
                          </Button>
                        )}
                      </CopyButton>
                      <a href={seat.link} target="_blank" rel="noreferrer">
                        Open it here
                      </a>
                    </span>
                  </>
                )}
              </li>
            ))}
          </ul>
          {session.seats.some((s) => s.link && isOnThisMachine(s.link)) && <LetIn />}
          {session.way === 'helper' && open && <Helper session={session} />}
          <Confirm
            question="Delete this series?"
            detail="What was answered in it counts no more. It can be brought back from the bench."
            verb="Delete the series"
            onYes={() => remove.mutate(session.id)}
          >
            {(ask) => (
              <Button className="no-print" variant="subtle" color="red" size="compact-sm" onClick={ask}>
                Delete the series
              </Button>
            )}
          </Confirm>
        </section>
      </div>
    </>
  );
}

/** A series that is over: what the panel tells apart now, and how the cups were prepared folded under it. */
function Told({ session, room }: { session: Session; room: PalateRoom }) {
  const panel = room.panels.find((p) => p.axis === session.axis);
  return (
    <div className={classes.column}>
      {panel && <PanelCard panel={panel} tasters={room.tasters} />}
      <details>
        <summary>How the cups were prepared</summary>
        <Prepare session={session} />
      </details>
    </div>
  );
}

function Prepare({ session }: { session: Session }) {
  const strength = session.axis === 'strength';
  return (
    <section className="card" aria-labelledby="prepare">
      <h2 id="prepare">Prepare</h2>
      <p>
        {strength
          ? `Mark ${session.prepared.length} servers. Weigh brew and water of one temperature into each, stir, keep them covered and equally warm.`
          : `Mark ${session.prepared.length} servers and prepare each as far from the plain one as its step says.`}
      </p>
      <table className={classes.prepare}>
        <thead>
          <tr>
            <th scope="col">server</th>
            {strength && <th scope="col">brew</th>}
            {strength && <th scope="col">water</th>}
            <th scope="col">{strength ? 'weaker by' : 'step'}</th>
            {session.tds_pct !== null && strength && <th scope="col">strength</th>}
          </tr>
        </thead>
        <tbody>
          {session.prepared.map((p) => (
            <tr key={p.name}>
              <th scope="row">{p.name}</th>
              {strength && <td className="num">{fixed(p.coffee_g, 1)} g</td>}
              {strength && <td className="num">{fixed(p.water_g, 1)} g</td>}
              <td className="num">
                {p.step
                  ? strength
                    ? `${p.step} %`
                    : `${apartIn(p.step, session.unit)} ${apartUnit(session.unit)}`
                  : '–'}
              </td>
              {session.tds_pct !== null && strength && <td className="num">{fixed(p.tds_pct)} %</td>}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="quiet small">
        Twelve presentations for {session.seats.length === 1 ? 'one taster' : `${session.seats.length} tasters`} use up
        to {fixed(session.brew_g, 0)} g of brew at {fixed(session.cup_g, 0)} g a cup. Rest half a minute and rinse with
        water between two of them. Spit if there are many: caffeine adds up.
      </p>
    </section>
  );
}

function Helper({ session }: { session: Session }) {
  if (!session.helper_waits)
    return <p>The helper’s sheet is open on their device. They see what to pour; nobody else does.</p>;
  return (
    <div className={classes.helper}>
      <img
        src={`/api/v1/palate-sessions/${session.id}/helper-qr.svg`}
        alt="QR code of the helper's link"
        width={140}
        height={140}
      />
      <div>
        <h3>The helper’s code</h3>
        <p>For the camera of somebody who tastes nothing here. It opens on one device.</p>
        {session.helper_link ? (
          <a href={session.helper_link} target="_blank" rel="noreferrer">
            Open it here: you do not taste
          </a>
        ) : (
          <p className="quiet small">You taste in this series, so its link is not shown to you.</p>
        )}
      </div>
    </div>
  );
}
