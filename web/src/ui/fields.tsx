import { TextInput, type TextInputProps } from '@mantine/core';
import { useState } from 'react';
import { api, Refused, take } from '../api/client';
import { inOneLine, notShown } from './notShown';
import { exactClock, readNumber } from './numbers';
import { tellTrouble } from './tell';
import { localRefusal } from './typed';
import { celsiusShown, celsiusTyped, gramsTyped, heatUnit } from './units';
import { isAnswered } from './useForm';

export { localRefusal, numberOf } from './typed';
export { useForm } from './useForm';

/** For useSend's onTrouble: a refusal of what was typed goes to its fields, anything else is told as usual. */
export const shownAtField = (setRefused: (refused: Refused) => void) => (error: unknown) => {
  if (!(error instanceof Refused) || error.status !== 422) return false;
  setRefused(error);
  window.setTimeout(() => whenDrawn(() => tellWhatIsNotShown(error)), SHOWN_AFTER_MS);
  return true;
};

const SHOWN_AFTER_MS = 250;
const DRAWN_AT_LATEST_MS = 5000;
const MOST_WAITS = 4;

/** Once nothing is left to draw: on a busy device that is later than any fixed wait, and a fault would be told twice. */
function whenDrawn(then: () => void, waits = MOST_WAITS) {
  if (!('requestIdleCallback' in window)) return then();
  window.requestIdleCallback((had) => (had.didTimeout && waits > 0 ? whenDrawn(then, waits - 1) : then()), {
    timeout: DRAWN_AT_LATEST_MS,
  });
}

/** A refusal of a field the form does not have is said all the same: whatever is not on the page by now is told. */
function tellWhatIsNotShown(refused: Refused) {
  if (isAnswered(refused)) return;
  // biome-ignore lint/performance/useDomNodeTextContent: only what can be seen counts
  const page = inOneLine(document.body.innerText);
  const unseen = notShown(refused.sentences(), page);
  if (unseen.length) tellTrouble(new Refused(refused.status, null, unseen.join(' ')));
}

type NumberFieldProps = Omit<TextInputProps, 'value' | 'onChange'> & {
  value: string;
  onText: (text: string) => void;
  unit?: string;
  /** Of °C: a difference between two temperatures. */
  apart?: boolean;
};

/** A number with its unit. A decimal comma is accepted and shown back with a point. The form keeps °C and g whatever the bench's units are. */
export function NumberField({ value, onText, unit, apart = false, ...rest }: NumberFieldProps) {
  if (unit === '°C') return <HeatField value={value} onText={onText} apart={apart} {...rest} />;
  return (
    <PlainNumber
      value={value}
      onText={unit === 'g' ? (text) => onText(gramsTyped(text)) : onText}
      unit={unit}
      {...rest}
    />
  );
}

/** What is typed stands as it was typed; the form gets its °C. */
function HeatField({ value, onText, apart, ...rest }: Omit<NumberFieldProps, 'unit'> & { apart: boolean }) {
  const [typed, setTyped] = useState<{ text: string; kept: string }>();
  const put = (text: string) => {
    const kept = celsiusTyped(text, apart);
    setTyped({ text, kept });
    onText(kept);
  };
  const shown = typed?.kept === value ? typed.text : celsiusShown(value, apart);
  return <PlainNumber value={shown} onText={put} unit={heatUnit()} {...rest} />;
}

function PlainNumber({
  value,
  onText,
  unit,
  ...rest
}: Omit<NumberFieldProps, 'unit' | 'apart'> & { unit: string | undefined }) {
  const read = readNumber(value);
  const understood = read.kind === 'number' && read.comma ? `understood as ${read.value}` : undefined;
  return (
    <TextInput
      {...rest}
      inputMode="decimal"
      autoComplete="off"
      value={value}
      onChange={(e) => onText(e.currentTarget.value)}
      rightSection={unit ? <span className="quiet small">{unit}</span> : undefined}
      rightSectionWidth={unit ? 12 + 8 * unit.length : undefined}
      rightSectionPointerEvents="none"
      description={understood ?? rest.description}
      styles={{ input: { fontFamily: 'var(--mono)', fontWeight: 500 } }}
    />
  );
}

type DurationFieldProps = Omit<TextInputProps, 'value' | 'onChange' | 'error'> & {
  value: string;
  onText: (text: string) => void;
  error?: string | undefined;
};

/** A duration as people write it (1:35, 95, 95s, 1m35); the bench reads it and it is shown back as m:ss. */
export function DurationField({ value, onText, error, ...rest }: DurationFieldProps) {
  const [trouble, setTrouble] = useState<string>();
  const tidy = async () => {
    setTrouble(undefined);
    if (!value.trim()) return;
    try {
      onText(exactClock(await secondsOf(value)));
    } catch (refused) {
      setTrouble(refused instanceof Refused ? (refused.at('text') ?? refused.message) : String(refused));
    }
  };
  return (
    <TextInput
      {...rest}
      autoComplete="off"
      placeholder="m:ss"
      value={value}
      onChange={(e) => onText(e.currentTarget.value)}
      onBlur={tidy}
      error={trouble ?? error}
      styles={{ input: { fontFamily: 'var(--mono)', fontWeight: 500 } }}
    />
  );
}

/** Seconds of a typed duration, null when empty. What cannot be read is refused at `field`. */
export async function secondsOf(text: string, field = 'text'): Promise<number | null> {
  if (!text.trim()) return null;
  try {
    return (await take(api.POST('/api/v1/calc/duration', { body: { text } }))).seconds;
  } catch (error) {
    const first = error instanceof Refused ? error.problem?.errors?.[0] : undefined;
    throw first ? localRefusal(field, first.reason, first.remedy) : error;
  }
}
