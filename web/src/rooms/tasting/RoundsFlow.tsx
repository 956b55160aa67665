import { useState } from 'react';
import { Penny } from '../../ui/Penny';
import { ByEye } from './ByEye';
import type { FlowProps } from './flow';
import type { Sheet } from './queries';
import { Rest } from './Rest';
import { Rules } from './Rules';
import classes from './Sheet.module.css';
import { cell, type PassName, passesOf } from './useSheet';

const NO_PREFERENCE = 'none';

/** Paired preference and tests of difference: a few cups a round, one answer each. */
export function RoundsFlow({ sheet, answers, locked, onScore }: FlowProps) {
  const pass = passesOf(sheet)[0]!.name as PassName;
  const [at, setAt] = useState<number | 'start' | 'end'>('start');
  const [resting, setResting] = useState(false);
  const answer = (n: number) => answers[cell(sheet.rounds[n]!.cell, 'pick', pass)]?.text ?? '';
  const done = sheet.rounds.filter((_, i) => answer(i) !== '').length;
  if (typeof at !== 'number') {
    const next = sheet.rounds.findIndex((_, i) => answer(i) === '');
    return (
      <>
        {!locked && (
          <>
            <h1>
              {at === 'start'
                ? `Welcome, ${sheet.taster}`
                : done === sheet.rounds.length
                  ? 'All is answered'
                  : `${done} of ${sheet.rounds.length} answered`}
            </h1>
            {at === 'start' ? (
              <Rules sheet={sheet} />
            ) : (
              <p className="quiet">You can change an answer until the host closes the flight.</p>
            )}
          </>
        )}
        <ol className={classes.cups}>
          {sheet.rounds.map((r, i) => (
            <li key={r.number}>
              <button type="button" className={classes.cupButton} onClick={() => setAt(i)}>
                <span>
                  <b>{sheet.rounds.length > 1 ? `Round ${r.number}` : sheet.posed}</b>
                  <span className="small quiet num">{r.codes.join(' · ')}</span>
                  <span className="small quiet">{said(answer(i))}</span>
                </span>
              </button>
            </li>
          ))}
        </ol>
        {!locked && next >= 0 && (
          <button type="button" className={classes.primary} onClick={() => setAt(next)}>
            {done ? 'Go on' : 'Start'}
          </button>
        )}
      </>
    );
  }
  const round = sheet.rounds[at]!;
  const chosen = answer(at) === NO_PREFERENCE ? [] : answer(at).split(',').filter(Boolean);
  if (resting) return <Rest seconds={sheet.rest_s} cleanser={sheet.cleanser} onDone={() => setResting(false)} />;
  return (
    <Round
      key={round.number}
      sheet={sheet}
      codes={round.codes}
      reference={round.reference}
      place={sheet.rounds.length > 1 ? `Round ${at + 1} of ${sheet.rounds.length}` : ''}
      kept={chosen}
      indifferent={answer(at) === NO_PREFERENCE}
      locked={locked}
      byEye={answers[cell(round.cell, 'told_by_eye', pass)]?.value != null}
      onByEye={(told) => onScore({ code: round.cell, attribute: 'told_by_eye', pass, value: told ? 1 : null })}
      onAnswer={(text) => onScore({ code: round.cell, attribute: 'pick', pass, text })}
      onBack={() => setAt(at === 0 ? 'start' : at - 1)}
      onNext={() => {
        const last = at + 1 === sheet.rounds.length;
        setAt(last ? 'end' : at + 1);
        setResting(!last && sheet.rest_s > 0 && answer(at) !== '');
      }}
      isLast={at + 1 === sheet.rounds.length}
    />
  );
}

const said = (text: string) =>
  text === '' ? 'not answered' : text === NO_PREFERENCE ? 'no preference' : text.split(',').join(' and ');

type RoundProps = {
  sheet: Sheet;
  codes: string[];
  reference: boolean;
  place: string;
  kept: string[];
  indifferent: boolean;
  locked: boolean;
  isLast: boolean;
  byEye: boolean;
  onByEye: (told: boolean) => void;
  onAnswer: (text: string) => void;
  onBack: () => void;
  onNext: () => void;
};

function Round(p: RoundProps) {
  const wanted = p.sheet.picks;
  const [picked, setPicked] = useState(p.kept);
  const pick = (code: string) => {
    const without = picked.filter((c) => c !== code);
    const next = picked.includes(code) ? without : [...without, code].slice(-wanted);
    setPicked(next);
    if (next.length === wanted) p.onAnswer(next.join(','));
    else if (p.kept.length) p.onAnswer('');
  };
  return (
    <>
      {p.place && <p className="quiet small">{p.place}</p>}
      <h1>{p.sheet.posed}</h1>
      <p className="quiet">{p.sheet.how}</p>
      <fieldset className={classes.picks} disabled={p.locked}>
        <legend className="sr-only">{p.sheet.posed}</legend>
        {p.reference && (
          <span className={classes.reference}>
            <b>R</b> the reference
          </span>
        )}
        {p.codes.map((code) => (
          <button
            key={code}
            type="button"
            className={classes.pick}
            aria-pressed={picked.includes(code)}
            onClick={() => pick(code)}
          >
            <Penny stamp={code} size={72} />
            <span>{picked.includes(code) ? 'chosen' : `Cup ${code}`}</span>
          </button>
        ))}
        {p.sheet.method === 'paired' && (
          <button
            type="button"
            className={classes.pick}
            aria-pressed={p.indifferent && picked.length === 0}
            onClick={() => {
              setPicked([]);
              p.onAnswer(NO_PREFERENCE);
            }}
          >
            <span>No preference</span>
          </button>
        )}
      </fieldset>
      {p.sheet.blinding !== 'open' && !p.locked && <ByEye what="these cups" told={p.byEye} onTell={p.onByEye} />}
      <div className={classes.bottom}>
        <button type="button" className={classes.secondary} onClick={p.onBack}>
          Back
        </button>
        <button type="button" className={classes.primary} onClick={p.onNext}>
          {p.isLast ? 'Done' : 'Next round'}
        </button>
      </div>
    </>
  );
}
