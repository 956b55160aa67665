import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { Loaded } from '../../ui/Loading';
import { LetIn } from '../people/LetIn';
import classes from './Paper.module.css';
import { flightQuery } from './queries';
import { isOnThisMachine } from './reach';

/** Every taster's link and code on one page, to be cut apart and handed out. */
export function LinksPage() {
  const { id = '' } = useParams();
  const flight = useQuery(flightQuery(id));
  return (
    <Loaded query={flight}>
      {(f) => {
        const open = f.sheets.filter((s) => s.link);
        const onlyHere = open.some((s) => isOnThisMachine(s.link!));
        return (
          <main className={classes.whole}>
            <div className={classes.tools}>
              {!onlyHere && <Button onClick={() => window.print()}>Print</Button>}
              <Link to={`/trials/${f.trial_id}/taste`}>Back to the flight</Link>
              <LetIn />
            </div>
            <section className={`paper ${classes.sheet}`} aria-labelledby="links">
              <h1 id="links">Links to flight {f.number}</h1>
              <ul className={classes.handOut}>
                {(onlyHere ? [] : open).map((s) => (
                  <li key={s.id}>
                    <img
                      src={`/api/v1/sheets/${s.id}/qr.svg`}
                      alt={`QR code of ${s.name}'s link`}
                      width={170}
                      height={170}
                    />
                    <b>{s.name}</b>
                    <code>{s.link}</code>
                    <small>Opens one sheet and nothing else.</small>
                  </li>
                ))}
              </ul>
              {!open.length && <p>No link is open: the flight is closed, or every link was withdrawn.</p>}
            </section>
          </main>
        );
      }}
    </Loaded>
  );
}
