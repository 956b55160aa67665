import type { Refused } from '../../api/client';
import { DurationField, NumberField, numberOf, secondsOf } from '../../ui/fields';
import { exactClock } from '../../ui/numbers';
import type { Observed } from './seen';

export type SeenTexts = Record<
  'first_drip_s' | 'slurry_c' | 'ground_min' | 'sediment_g' | 'press_kg' | 'press_s',
  string
>;

const text = (value: number | null) => (value === null ? '' : String(value));

export const seenTexts = (o: Observed): SeenTexts => ({
  first_drip_s: exactClock(o.first_drip_s),
  slurry_c: text(o.slurry_c),
  ground_min: text(o.ground_min),
  sediment_g: text(o.sediment_g),
  press_kg: text(o.press_kg),
  press_s: text(o.press_s),
});

/** What was typed, on top of what was touched. Throws a Refused naming the field. */
export async function withNumbers(seen: Observed, texts: SeenTexts): Promise<Observed> {
  const number = (name: keyof SeenTexts) => numberOf(`observed.${name}`, texts[name]);
  return {
    ...seen,
    first_drip_s: await secondsOf(texts.first_drip_s),
    slurry_c: number('slurry_c'),
    ground_min: number('ground_min'),
    sediment_g: number('sediment_g'),
    press_kg: number('press_kg'),
    press_s: number('press_s'),
  };
}

type SeenNumbersProps = {
  texts: SeenTexts;
  set: (name: keyof SeenTexts, text: string) => void;
  refused: Refused | null;
  /** Force and time of a press. */
  pressed: boolean;
};

/** What is read or weighed besides the drink. */
export function SeenNumbers({ texts, set, refused, pressed }: SeenNumbersProps) {
  const number = (name: keyof SeenTexts, label: string, unit: string) => (
    <NumberField
      label={label}
      unit={unit}
      value={texts[name]}
      onText={(t) => set(name, t)}
      error={refused?.at(`observed.${name}`)}
    />
  );
  return (
    <>
      <DurationField
        label="First drip"
        value={texts.first_drip_s}
        onText={(t) => set('first_drip_s', t)}
        error={refused?.at('observed.first_drip_s')}
      />
      {number('slurry_c', 'Slurry', '°C')}
      {number('ground_min', 'Ground before', 'min')}
      {number('sediment_g', 'Sediment left', 'g')}
      {pressed && number('press_kg', 'Pressed with', 'kg')}
      {pressed && number('press_s', 'Press took', 's')}
    </>
  );
}
