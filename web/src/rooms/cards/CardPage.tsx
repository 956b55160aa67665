import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { KIT_KINDS } from '../../api/vocabulary';
import { labelOf } from '../../api/words';
import { Loaded } from '../../ui/Loading';
import { plural } from '../../ui/numbers';
import { useTitle } from '../../ui/title';
import classes from './Card.module.css';
import { cardQuery, type KitCard } from './queries';

/** Everything the bench has learnt of one grinder, brewer or filter. */
export function CardPage() {
  const { id = '' } = useParams();
  const card = useQuery(cardQuery(id));
  useTitle(card.data?.name, 'card');
  return (
    <main className={classes.page}>
      <Loaded query={card}>{(c) => <Card card={c} />}</Loaded>
    </main>
  );
}

function Card({ card }: { card: KitCard }) {
  const parts = Object.entries(card.parts);
  return (
    <>
      <header className={classes.head}>
        <div>
          <p className="small">
            <Link to={`/kit/${card.kind}/${card.id}`}>{labelOf(KIT_KINDS, card.kind)} in the kit</Link>
          </p>
          <h1>{card.name}</h1>
          <p className="quiet">{plural(card.brews, 'brew')} with it on this bench.</p>
        </div>
        {card.kind !== 'brewer' && (
          <Button component={Link} to={card.sampled ? `/grind?first=${card.sampled}` : '/grind'} variant="default">
            In the Grind room
          </Button>
        )}
      </header>
      <div className={classes.columns}>
        <section className={`card ${classes.plate}`} aria-label="What is known">
          {card.lines.length === 0 && <p className="quiet">Nothing measured yet.</p>}
          <dl>
            {card.lines.map((line) => (
              <div key={line.label + line.said}>
                <dt>{line.label}</dt>
                <dd>
                  <b>{line.said}</b>
                  <span className="quiet small">{line.note}</span>
                </dd>
              </div>
            ))}
          </dl>
          {card.in_band_note && <p className="quiet small">{card.in_band_note}</p>}
        </section>
        <div className={classes.side}>
          <section className="card" aria-labelledby="liked">
            <h2 id="liked">Liked blind, beside its rivals</h2>
            {card.trials.length === 0 && <p className="quiet">No blind trial has asked about it yet.</p>}
            <ul className={classes.trials}>
              {card.trials.map((t) => (
                <li key={t.trial_id}>
                  <Link to={`/trials/${t.trial_id}/verdict`}>{t.question}</Link>
                  <span>{t.said}</span>
                </li>
              ))}
            </ul>
          </section>
          {parts.length > 0 && (
            <section className="card" aria-labelledby="burrs">
              <h2 id="burrs">Its burr sets</h2>
              <ul className={classes.trials}>
                {parts.map(([id, name]) => (
                  <li key={id}>
                    <Link to={`/kit/card/${id}`}>{name}</Link>
                  </li>
                ))}
              </ul>
            </section>
          )}
          {card.matches.length > 0 && (
            <section className="card" aria-labelledby="matches">
              <h2 id="matches">Matched settings</h2>
              <ul className={classes.trials}>
                {card.matches.map((m) => (
                  <li key={m}>{m}</li>
                ))}
              </ul>
            </section>
          )}
          {card.unknown.length > 0 && (
            <section className="card" aria-labelledby="unknown">
              <h2 id="unknown">Not known yet</h2>
              <ul className={classes.trials}>
                {card.unknown.map((u) => (
                  <li key={u}>{u}.</li>
                ))}
              </ul>
            </section>
          )}
        </div>
      </div>
    </>
  );
}
