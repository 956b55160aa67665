import { Checkbox, TextInput } from '@mantine/core';
import type { Refused } from '../../api/client';
import { atADesk } from '../../ui/desk';
import { DurationField, NumberField } from '../../ui/fields';
import { fixed } from '../../ui/numbers';
import classes from './Brew.module.css';
import type { BrewTexts } from './brewTexts';
import { LivePreview } from './LivePreview';
import { PourTable } from './PourTable';
import type { PourShown } from './pourTexts';
import { SeenChips } from './SeenChips';
import type { Observed } from './seen';

export type BrewFormProps = {
  texts: BrewTexts;
  set: (name: keyof BrewTexts & string, text: string) => void;
  refused: Refused | null;
  seen: Observed;
  onSeen: (seen: Observed) => void;
  concentrate: boolean;
  onConcentrate: (is: boolean) => void;
  pours: PourShown[];
  yield_basis: 'in_cup' | 'full_liquor';
  /** What ends the brew, as its field is called. */
  ends?: string;
  /** The readings it has, % TDS: what is typed is added to them. Each is corrected at its own place. */
  read?: number[];
  /** Force and time of a press. */
  pressed: boolean;
  /** Everything but the drink folded away, for a brew that is typed in one go. */
  folded?: boolean;
};

/** What is folded away is opened when something of it is refused. */
const FOLDED = ['pours', 'observed', 'bypass_g', 'moisture_pct', 'note'];

/** The one form of a brew: it ends one, types one in, and corrects one, with everything that can be logged. */
export function BrewForm(props: BrewFormProps) {
  const { texts, set, refused, pours, read = [], folded } = props;
  const number = (name: keyof BrewTexts & string, label: string, unit: string, field: string = name) => (
    <NumberField
      label={label}
      unit={unit}
      value={texts[name] ?? ''}
      onText={(t) => set(name, t)}
      error={refused?.at(field) ?? refused?.at(`variables.${field}`)}
    />
  );
  return (
    <>
      <div className={classes.fields}>
        <NumberField
          label="Beverage mass"
          unit="g"
          value={texts.beverage_g ?? ''}
          onText={(t) => set('beverage_g', t)}
          error={refused?.at('beverage_g')}
          autoFocus={folded && atADesk()}
          data-begins-a-brew={folded || undefined}
        />
        <DurationField
          label={props.ends ?? 'Total time'}
          value={texts.total_time_s}
          onText={(t) => set('total_time_s', t)}
          error={refused?.at('total_time_s')}
        />
        <TextInput
          className={classes.wide}
          label={read.length ? 'More TDS readings, %' : 'TDS readings, %'}
          description={
            read.length
              ? `Added to ${read.map((r) => fixed(r)).join(' ')}.`
              : 'Three samples, such as 1.41 1.43 1.42. May follow later.'
          }
          autoComplete="off"
          value={texts.tds_readings_pct}
          onChange={(e) => set('tds_readings_pct', e.currentTarget.value)}
          error={refused?.at('tds_readings_pct')}
          styles={{ input: { fontFamily: 'var(--mono)', fontWeight: 500 } }}
        />
        {number('dose_g', 'Dose', 'g')}
        {number('brew_water_g', 'Brew water', 'g')}
        {number('temperature_c', 'Temperature', '°C')}
        {!pours.length && (
          <DurationField
            label="Last pour ended"
            value={texts.pour_end_s}
            onText={(t) => set('pour_end_s', t)}
            error={refused?.at('pour_end_s')}
          />
        )}
      </div>
      <LivePreview texts={texts} read={read} concentrate={props.concentrate} yield_basis={props.yield_basis} />
      {folded ? (
        <details className={classes.more} open={FOLDED.some((name) => refused?.at(name)) || undefined}>
          <summary>Pours, bypass, what was seen, a note</summary>
          <Further {...props} />
        </details>
      ) : (
        <Further {...props} />
      )}
    </>
  );
}

function Further({ texts, set, refused, seen, onSeen, concentrate, onConcentrate, pours, pressed }: BrewFormProps) {
  const number = (name: keyof BrewTexts & string, label: string, unit: string, field: string = name) => (
    <NumberField
      label={label}
      unit={unit}
      value={texts[name] ?? ''}
      onText={(t) => set(name, t)}
      error={refused?.at(field) ?? refused?.at(`variables.${field}`)}
    />
  );
  return (
    <div className={classes.further}>
      <PourTable
        pours={pours}
        texts={texts}
        set={(name, t) => set(name as keyof BrewTexts & string, t)}
        refused={refused}
      />
      <SeenChips seen={seen} onChange={onSeen} />
      <div className={classes.fields}>
        {number('bypass_g', 'Bypass, as poured', 'g')}
        {number('topped_up_g', 'Topped up, within the water', 'g', 'observed.topped_up_g')}
        <DurationField
          label="First drip"
          value={texts.first_drip_s}
          onText={(t) => set('first_drip_s', t)}
          error={refused?.at('observed.first_drip_s')}
        />
        {number('slurry_c', 'Slurry', '°C', 'observed.slurry_c')}
        {number('ground_min', 'Ground before', 'min', 'observed.ground_min')}
        {number('sediment_g', 'Sediment left', 'g', 'observed.sediment_g')}
        {pressed && number('press_kg', 'Pressed with', 'kg', 'observed.press_kg')}
        {pressed && number('press_s', 'Press took', 's', 'observed.press_s')}
        {pressed && (
          <TextInput
            label="Force read on"
            placeholder="bathroom scale"
            maxLength={60}
            value={texts.press_with}
            onChange={(e) => set('press_with', e.currentTarget.value)}
            error={refused?.at('observed.press_with')}
          />
        )}
        {number('moisture_pct', 'Moisture of the dose', '%')}
        <TextInput
          className={classes.wide}
          label="Note"
          maxLength={500}
          value={texts.note}
          onChange={(e) => set('note', e.currentTarget.value)}
          error={refused?.at('note')}
        />
        <Checkbox
          className={classes.wide}
          label="A concentrate: readings up to 25 % are meant"
          checked={concentrate}
          onChange={(e) => onConcentrate(e.currentTarget.checked)}
        />
      </div>
    </div>
  );
}
