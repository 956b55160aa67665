import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import classes from './Pour.module.css';
import type { PourSheet } from './queries';

/** Server by server: which codes it is poured into. Then whose cups stand in which order. */
export function PourList({ sheet }: { sheet: PourSheet }) {
  const rounds = [...new Set(sheet.cups.map((c) => c.round))];
  const roundOf = new Map(sheet.cups.map((c) => [c.code, c.round]));
  return (
    <>
      {rounds.map((round) => {
        const cups = sheet.cups.filter((c) => c.round === round);
        const brews = [...new Set(cups.map((c) => c.label))];
        const reference = sheet.references.find((r) => r.round === round);
        return (
          <section key={round} className={classes.round}>
            {rounds.length > 1 && <h2>Round {round}</h2>}
            <ul className={classes.servers}>
              {brews.map((label) => {
                const own = cups.filter((c) => c.label === label);
                return (
                  <li key={label}>
                    <Penny stamp={own[0]!.letter} size={44} />
                    <b>{label}</b>
                    {own[0]!.add_water_g !== null && (
                      <span className={classes.water}>
                        first stir in {fixed(own[0]!.add_water_g, 1)} g of hot water
                      </span>
                    )}
                    <span className={classes.into} aria-hidden>
                      →
                    </span>
                    <span className={classes.codes}>{own.map((c) => c.code).join('  ')}</span>
                  </li>
                );
              })}
              {reference && (
                <li>
                  <span className={classes.reference}>R</span>
                  <b>{reference.label}</b>
                  <span className={classes.into} aria-hidden>
                    →
                  </span>
                  <span className={classes.codes}>reference</span>
                </li>
              )}
            </ul>
          </section>
        );
      })}
      <section className={classes.round} aria-labelledby="orders">
        <h2 id="orders">Serve in this order</h2>
        <ul className={classes.seats}>
          {sheet.seats.map((seat) => (
            <li key={seat.taster}>
              <b>{seat.taster}</b>
              <span className={classes.codes}>
                {rounds.map((n) => seat.order.filter((c) => roundOf.get(c) === n).join(' · ')).join('\n')}
              </span>
            </li>
          ))}
        </ul>
      </section>
    </>
  );
}
