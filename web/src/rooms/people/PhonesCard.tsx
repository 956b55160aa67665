import { useQuery } from '@tanstack/react-query';
import { isOnThisMachine } from '../tasting/reach';
import { LetIn } from './LetIn';
import classes from './People.module.css';
import { reachQuery } from './queries';

/** The bench's address for the camera of a phone, or what lets phones in. */
export function PhonesCard() {
  const { data } = useQuery(reachQuery);
  if (!data) return null;
  if (!data.on_network || isOnThisMachine(data.link)) {
    return (
      <section className="card" aria-labelledby="phones">
        <h2 id="phones">Phones</h2>
        <LetIn otherwise="Until then tasters can share one tablet or write on paper." />
      </section>
    );
  }
  return (
    <section className="card" aria-labelledby="phones">
      <h2 id="phones">Open the bench on a phone</h2>
      <div className={classes.reach}>
        <img src="/api/v1/reach/qr.svg" alt={`QR code of ${data.link}`} width={200} height={200} />
        <div>
          <code className={classes.command}>{data.link}</code>
          <p className="quiet small">
            Each device is asked once for the bench’s passphrase. Tasters need none: their own link opens their sheet.
            With <code>--tls</code> added, phones keep a sheet through a lost network.
          </p>
        </div>
      </div>
    </section>
  );
}
