import { useEffect, useRef, useState } from 'react';
import { Penny } from '../../ui/Penny';
import { celsiusShown, celsiusTyped, degrees, heat, heatUnit, scalds, scaldsAbove } from '../../ui/units';
import { ByEye } from './ByEye';
import { Liking } from './Liking';
import type { ScoreSent, Sheet } from './queries';
import classes from './Sheet.module.css';
import { WordsShelf } from './WordsShelf';

type Attribute = Sheet['attributes'][number];
type Item = ScoreSent['attribute'];

type CupProps = {
  sheet: Sheet;
  cup: Sheet['cups'][number];
  /** "Cup 3 of 4 · warm" */
  place: string;
  answer: (attribute: string) => { value: number | null; text: string } | undefined;
  locked: boolean;
  /** Why it cannot be scored now; '' while it can. */
  notice: string;
  isLast: boolean;
  onScore: (attribute: Item, value: number | null, text?: string) => void;
  onBack: () => void;
  onNext: () => void;
};

/** One coded cup: sliders that say nothing until touched, nine steps of liking, words. */
export function Cup({ sheet, cup, place, answer, locked, notice, isLast, onScore, onBack, onNext }: CupProps) {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    window.scrollTo(0, 0);
    heading.current?.focus();
  }, []);
  const value = (code: string) => answer(code)?.value ?? null;
  return (
    <>
      <div className={classes.cupHead}>
        <Penny stamp={cup.code} size={64} />
        <div>
          <p className="quiet small">{place}</p>
          <h1 ref={heading} tabIndex={-1}>
            Cup {cup.code}
          </h1>
          <p className="quiet">{cup.label ?? 'Sip, then score. Spit if you like.'}</p>
        </div>
      </div>
      {notice && (
        <p className={classes.notice} role="alert">
          This pass is {notice}. What you scored stays.
        </p>
      )}
      <fieldset className={classes.fields} disabled={locked}>
        <legend className="sr-only">Scores of cup {cup.code}</legend>
        {sheet.blinding !== 'open' && (
          <ByEye
            what="this cup"
            told={value('told_by_eye') !== null}
            onTell={(told) => onScore('told_by_eye', told ? 1 : null)}
          />
        )}
        {sheet.sip_temperature && <FirstSip value={value('sip_c')} onScore={(v) => onScore('sip_c', v)} />}
        {!sheet.liking_last && <Liking value={value('liking')} onScore={(v) => onScore('liking', v)} />}
        {sheet.attributes
          .filter((a) => a.code !== 'liking')
          .map((a) => (
            <Intensity key={a.code} attribute={a} value={value(a.code)} onScore={(v) => onScore(a.code as Item, v)} />
          ))}
        {sheet.liking_last && <Liking value={value('liking')} onScore={(v) => onScore('liking', v)} />}
        {sheet.jar.map((a) => (
          <JustAboutRight
            key={a.code}
            label={a.label}
            value={value(`jar_${a.code}`)}
            onScore={(v) => onScore(`jar_${a.code}` as Item, v)}
          />
        ))}
        <WordsShelf
          shelf={sheet.shelf}
          text={answer('words')?.text ?? ''}
          onWords={(text) => onScore('words', null, text)}
        />
      </fieldset>
      <div className={classes.bottom}>
        <button type="button" className={classes.secondary} onClick={onBack}>
          Back
        </button>
        <button type="button" className={classes.primary} onClick={onNext}>
          {isLast ? 'Done' : 'Next cup'}
        </button>
      </div>
    </>
  );
}

export const JAR_STEPS = [
  [-2, 'much too little'],
  [-1, 'too little'],
  [0, 'just right'],
  [1, 'too much'],
  [2, 'much too much'],
] as const;

function JustAboutRight({
  label,
  value,
  onScore,
}: {
  label: string;
  value: number | null;
  onScore: (value: number | null) => void;
}) {
  const name = `jar-${label}`;
  return (
    <div>
      <div className={classes.row}>
        <b id={name}>{label}: just about right?</b>
        {value === null && <span className={classes.unscored}>not scored</span>}
      </div>
      <div className={classes.jar} role="radiogroup" aria-labelledby={name}>
        {JAR_STEPS.map(([step, words]) => (
          <label key={step} className={classes.step}>
            <input type="radio" name={name} checked={value === step} onChange={() => onScore(step)} />
            <span>{words}</span>
          </label>
        ))}
      </div>
    </div>
  );
}

function FirstSip({ value, onScore }: { value: number | null; onScore: (value: number | null) => void }) {
  const [typed, setTyped] = useState(value === null ? '' : celsiusShown(String(value)));
  const number = Number(celsiusTyped(typed).replace(',', '.'));
  const wrong = typed.trim() !== '' && !(number >= 0 && number <= 99);
  return (
    <label className={classes.sip}>
      <span>First sip at</span>
      <input
        inputMode="decimal"
        value={typed}
        aria-invalid={wrong}
        onChange={(e) => setTyped(e.currentTarget.value)}
        onBlur={() => !wrong && onScore(typed.trim() === '' ? null : Math.round(number * 10) / 10)}
      />
      <span>{heatUnit()}</span>
      {scalds(number) && !wrong && <b>Above {scaldsAbove()} scalds: wait.</b>}
      {wrong && (
        <b role="alert">
          Enter {degrees(0)} to {heat(99, 0)}, such as {degrees(58, 0)}.
        </b>
      )}
    </label>
  );
}

/** An untouched slider is not scored, never its middle. */
function Intensity({
  attribute,
  value,
  onScore,
}: {
  attribute: Attribute;
  value: number | null;
  onScore: (value: number | null) => void;
}) {
  const middle = (attribute.low + attribute.high) / 2;
  const [dragged, setDragged] = useState<number | null>(null);
  const shown = dragged ?? value;
  const settle = (next: number) => {
    setDragged(null);
    if (next !== value) onScore(next);
  };
  return (
    <div className={classes.intensity}>
      <div className={classes.row}>
        <label htmlFor={`s-${attribute.code}`}>{attribute.label}</label>
        {shown === null ? (
          <span className={classes.unscored}>not scored</span>
        ) : (
          <span className={classes.scored}>
            {shown}
            <button
              type="button"
              className={classes.clear}
              onClick={() => onScore(null)}
              aria-label={`Clear ${attribute.label.toLowerCase()}`}
            >
              clear
            </button>
          </span>
        )}
      </div>
      <input
        id={`s-${attribute.code}`}
        type="range"
        className={classes.slider}
        data-untouched={shown === null}
        min={attribute.low}
        max={attribute.high}
        step={attribute.step}
        value={shown ?? middle}
        aria-valuetext={shown === null ? 'not scored' : `${shown} of ${attribute.high}`}
        onChange={(e) => setDragged(Number(e.currentTarget.value))}
        onPointerUp={(e) => settle(Number(e.currentTarget.value))}
        onKeyUp={(e) => e.key !== 'Tab' && e.key !== 'Shift' && settle(Number(e.currentTarget.value))}
        onBlur={() => dragged !== null && settle(dragged)}
      />
      <div className={classes.ends} aria-hidden>
        <span>{attribute.low_word}</span>
        <span>{attribute.high_word}</span>
      </div>
    </div>
  );
}
