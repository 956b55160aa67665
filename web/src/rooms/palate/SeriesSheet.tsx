import { useCallback, useEffect, useState } from 'react';
import { Refused } from '../../api/client';
import classes from './Phone.module.css';
import { answer, type PalateSheet, readSheet, serveNext, turnOver } from './queries';
import { placeWord, progress } from './reading';

/** A taster's own phone: two or three cups at a time, one answer each; what they can tell once the series is closed. */
export function SeriesSheet({ token }: { token: string }) {
  const [sheet, setSheet] = useState<PalateSheet | null>(null);
  const [trouble, setTrouble] = useState('');
  const [busy, setBusy] = useState(false);
  const [picked, setPicked] = useState<number | null>(null);
  const ask = useCallback(async (call: () => Promise<PalateSheet>) => {
    setBusy(true);
    try {
      const got = await call();
      setSheet((before) => {
        if (before?.now?.number !== got.now?.number) setPicked(null);
        return got;
      });
      setTrouble('');
    } catch (error) {
      setTrouble(error instanceof Refused ? error.message : 'The bench does not answer. Try again.');
    } finally {
      setBusy(false);
    }
  }, []);
  useEffect(() => {
    ask(() => readSheet(token));
  }, [ask, token]);
  if (!sheet)
    return (
      <main className={classes.page}>
        <h1>{trouble ? 'This page does not open' : ''}</h1>
        {trouble && <p role="alert">{trouble}</p>}
      </main>
    );
  const { now } = sheet;
  const chosen = now?.picked ?? picked;
  return (
    <main className={classes.page}>
      <header className={classes.top}>
        <span>{sheet.name}</span>
        <span>{sheet.bench}</span>
      </header>
      {sheet.over ? (
        <Over sheet={sheet} />
      ) : (
        <>
          <h1>{now ? sheet.question : `Welcome, ${sheet.name}`}</h1>
          {now ? (
            <Cups sheet={sheet} chosen={chosen} locked={now.picked !== null} onPick={setPicked} />
          ) : (
            <Rules sheet={sheet} />
          )}
          {trouble && <p role="alert">{trouble}</p>}
          <Next
            sheet={sheet}
            chosen={chosen}
            busy={busy}
            onNext={() => ask(() => serveNext(token))}
            onAnswer={() => ask(() => answer(token, { number: now!.number, picked: chosen! }))}
            onTurned={(place) => ask(() => turnOver(token, { number: now!.number, place }))}
          />
          <p className="quiet" role="status">
            {progress(sheet.answered, sheet.first_answer)}
          </p>
        </>
      )}
    </main>
  );
}

function Rules({ sheet }: { sheet: PalateSheet }) {
  return (
    <ul className={classes.rules}>
      <li>
        {sheet.method === 'two_afc'
          ? 'Two cups stand before you, never the same. Say which one it is, even if you have to guess.'
          : 'Three cups stand before you. Two are the same: find the odd one, even if you have to guess.'}
      </li>
      <li>Taste left to right, as often as you like. Rinse with water, and rest half a minute between two pairs.</li>
      {sheet.way === 'helper' && <li>You are not told whether you were right: it would teach you the cups.</li>}
    </ul>
  );
}

type CupsProps = { sheet: PalateSheet; chosen: number | null; locked: boolean; onPick: (place: number) => void };

function Cups({ sheet, chosen, locked, onPick }: CupsProps) {
  const { pour, codes } = sheet.now!;
  return (
    <>
      {pour && !locked && (
        <p>
          Pour <b>{pour}</b> into like cups, marked underneath. Shuffle them until you do not know which is which.
        </p>
      )}
      <div className={classes.cups}>
        {codes.map((code, place) => (
          <button
            key={code}
            type="button"
            className={classes.cup}
            aria-pressed={chosen === place}
            disabled={locked}
            onClick={() => onPick(place)}
          >
            <span className={classes.code}>{pour ? placeWord(place, codes.length) : code}</span>
            {!pour && <span className="quiet">{placeWord(place, codes.length).toLowerCase()}</span>}
          </button>
        ))}
      </div>
    </>
  );
}

type NextProps = {
  sheet: PalateSheet;
  chosen: number | null;
  busy: boolean;
  onNext: () => void;
  onAnswer: () => void;
  onTurned: (place: number) => void;
};

function Next({ sheet, chosen, busy, onNext, onAnswer, onTurned }: NextProps) {
  const { now } = sheet;
  if (!now)
    return (
      <button type="button" className={classes.primary} disabled={busy} onClick={onNext}>
        {sheet.answered ? 'Next' : 'Start'}
      </button>
    );
  if (now.picked === null)
    return (
      <button type="button" className={classes.primary} disabled={busy || chosen === null} onClick={onAnswer}>
        {chosen === null ? 'Choose a cup' : `It is the ${placeWord(chosen, now.codes.length).toLowerCase()} one`}
      </button>
    );
  return (
    <>
      <p>Turn the cups over. By the marks, {sheet.question.charAt(0).toLowerCase() + sheet.question.slice(1)}</p>
      <div className={classes.cups}>
        {now.codes.map((code, place) => (
          <button key={code} type="button" className={classes.primary} disabled={busy} onClick={() => onTurned(place)}>
            {placeWord(place, now.codes.length)}
          </button>
        ))}
      </div>
    </>
  );
}

function Over({ sheet }: { sheet: PalateSheet }) {
  return (
    <>
      <h1>The series is over</h1>
      {sheet.told && (
        <>
          <p className={classes.told}>{sheet.told.text}</p>
          <p>
            {sheet.told.of > 0 && `${sheet.told.right} of ${sheet.told.of} right this time. `}
            {sheet.told.more}
          </p>
        </>
      )}
      <p className="quiet">Thank you. You can close this page.</p>
    </>
  );
}
