import { useEffect, useRef, useState } from 'react';
import { joined, timeOf } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { call } from '../../ui/sound';
import { degrees, heat } from '../../ui/units';
import { Cup } from './Cup';
import type { FlowProps } from './flow';
import { Guesses } from './Guesses';
import { Rest } from './Rest';
import { Rules } from './Rules';
import classes from './Sheet.module.css';
import { cell, type PassName, passesOf } from './useSheet';

type Place =
  | 'start'
  | 'end'
  | { pass: string; cup: number; resting: boolean }
  | { pass: string; passedOver: string[]; then: Place };

/** A call when a pass opens; those that are open at first are known. */
function useCalledTo(open: string[]) {
  const known = useRef(open.length);
  useEffect(() => {
    if (open.length > known.current) call();
    known.current = open.length;
  }, [open.length]);
}

/** Scores: one coded cup at a time, pass by pass as they cool. */
export function CupsFlow({ sheet, answers, locked, onScore }: FlowProps) {
  const [place, setPlace] = useState<Place>('start');
  const [leftOut, setLeftOut] = useState<string[]>([]);
  const passes = passesOf(sheet);
  const liked = (code: string, pass: string) => answers[cell(code, 'liking', pass)]?.value ?? null;
  const scoredIn = (pass: string) => sheet.cups.filter((c) => liked(c.code, pass) !== null).length;
  const done = passes.reduce((sum, p) => sum + scoredIn(p.name), 0);
  const wanted = passes.reduce((sum, p) => sum + (p.closed ? scoredIn(p.name) : sheet.cups.length), 0);

  useCalledTo(passes.filter((p) => p.open).map((p) => p.name));
  if (typeof place === 'object' && 'passedOver' in place) {
    const { pass, passedOver, then } = place;
    const first = sheet.cups.findIndex((c) => c.code === passedOver[0]);
    return (
      <PassedOver
        codes={passedOver}
        onScore={() => setPlace({ pass, cup: first, resting: false })}
        onLeave={() => {
          setLeftOut((now) => [...now, ...passedOver.map((code) => `${pass}/${code}`)]);
          setPlace(then);
        }}
      />
    );
  }
  if (typeof place === 'object') {
    const { pass, cup: at } = place;
    const cup = sheet.cups[at]!;
    const last = at + 1 === sheet.cups.length;
    const over = passes.find((p) => p.name === pass)?.closed;
    if (place.resting) {
      return (
        <Rest
          seconds={sheet.rest_s}
          cleanser={sheet.cleanser}
          onDone={() => setPlace({ pass, cup: at, resting: false })}
        />
      );
    }
    return (
      <Cup
        key={`${pass}/${cup.code}`}
        sheet={sheet}
        cup={cup}
        place={`Cup ${at + 1} of ${sheet.cups.length}${pass ? ` · ${pass}` : ''}`}
        answer={(attribute) => answers[cell(cup.code, attribute, pass)]}
        locked={locked || Boolean(over)}
        notice={over ? closedSaid(passes.find((p) => p.name === pass)!) : ''}
        isLast={last}
        onScore={(attribute, value, text) =>
          onScore({ code: cup.code, attribute, pass: pass as PassName, value, text })
        }
        onBack={() => setPlace(at === 0 ? 'start' : { pass, cup: at - 1, resting: false })}
        onNext={() => {
          const then: Place = last
            ? 'end'
            : { pass, cup: at + 1, resting: sheet.rest_s > 0 && liked(cup.code, pass) !== null };
          const codes = sheet.cups.slice(0, at + 1).map((c) => c.code);
          const passedOver = codes.filter((c) => liked(c, pass) === null && !leftOut.includes(`${pass}/${c}`));
          const isAsked = at + 2 >= sheet.cups.length && passedOver.length > 0 && !locked && !over;
          setPlace(isAsked ? { pass, passedOver, then } : then);
        }}
      />
    );
  }
  const next = firstUndone();
  return (
    <>
      {!locked && (
        <h1>
          {place === 'start'
            ? `Welcome, ${sheet.taster}`
            : done === wanted
              ? 'All cups are scored'
              : `${done} of ${wanted} cups scored`}
        </h1>
      )}
      {place === 'start' && !locked && <Rules sheet={sheet} />}
      {place === 'end' && !locked && (
        <p className="quiet">You can go back to any cup until the host closes the flight.</p>
      )}
      {passes.map((p) => (
        <section key={p.name} aria-label={p.name ? `${p.name} pass` : 'Cups'}>
          {p.name && (
            <h2 className={classes.passHead}>
              {p.name} pass
              <span className={classes.passWhen}>
                {p.closed
                  ? closedSaid(p)
                  : p.open
                    ? `${degrees(p.from_c, 0)}–${heat(p.to_c, 0)}, open`
                    : p.opens_at
                      ? `opens at ${timeOf(p.opens_at)}`
                      : 'not open yet'}
              </span>
            </h2>
          )}
          <ol className={classes.cups}>
            {sheet.cups.map((c, i) => (
              <li key={c.code}>
                <button
                  type="button"
                  className={classes.cupButton}
                  disabled={!p.open}
                  onClick={() => setPlace({ pass: p.name, cup: i, resting: false })}
                >
                  <Penny stamp={c.code} size={52} />
                  <span>
                    <b>Cup {c.code}</b>
                    {c.label && <span className="small">{c.label}</span>}
                    <span className="small quiet">
                      {liked(c.code, p.name) === null ? 'not scored' : `liking ${liked(c.code, p.name)}`}
                    </span>
                  </span>
                </button>
              </li>
            ))}
          </ol>
        </section>
      ))}
      {sheet.guesses.length > 0 && done > 0 && (
        <Guesses sheet={sheet} answers={answers} locked={locked} onScore={onScore} />
      )}
      {next && !locked && (
        <button
          type="button"
          className={classes.primary}
          onClick={() => setPlace({ pass: next.pass, cup: next.cup, resting: false })}
        >
          {done ? `Go on with cup ${sheet.cups[next.cup]!.code}` : 'Start with the first cup'}
        </button>
      )}
    </>
  );

  /** The first cup of an open pass that is not scored yet. */
  function firstUndone() {
    for (const p of passes) {
      if (!p.open) continue;
      const cup = sheet.cups.findIndex((c) => liked(c.code, p.name) === null);
      if (cup >= 0) return { pass: p.name, cup };
    }
    return null;
  }
}

/** Asked before the last cup and at the end: a cup without a score of liking says nothing to the verdict. */
function PassedOver({ codes, onScore, onLeave }: { codes: string[]; onScore: () => void; onLeave: () => void }) {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), []);
  const several = codes.length > 1;
  return (
    <>
      <h1 ref={heading} tabIndex={-1}>
        {several ? 'Cups' : 'Cup'} {joined(codes)} {several ? 'have' : 'has'} no liking yet
      </h1>
      <p className="quiet">
        The verdict counts liking. Without it {several ? 'these cups are' : 'this cup is'} left out.
      </p>
      <button type="button" className={classes.primary} onClick={onScore}>
        Score cup {codes[0]}
      </button>
      <button type="button" className={classes.secondary} onClick={onLeave}>
        Leave {several ? 'them' : 'it'} out
      </button>
    </>
  );
}

const closedSaid = (p: { to_c: number }) => `closed: the cups are below ${heat(p.to_c, 0)}`;
