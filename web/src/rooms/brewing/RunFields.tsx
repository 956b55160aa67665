import { Checkbox, TextInput } from '@mantine/core';
import type { Refused } from '../../api/client';
import { DurationField, NumberField } from '../../ui/fields';
import classes from './Brew.module.css';
import type { RunTexts } from './runTexts';

type RunFieldsProps = {
  texts: RunTexts;
  set: (name: keyof RunTexts, text: string) => void;
  refused: Refused | null;
  concentrate: boolean;
  onConcentrate: (is: boolean) => void;
  /** Readings are typed with a new brew; later they have their own place. */
  withReadings: boolean;
};

/** Everything weighed, timed and read of one brew. */
export function RunFields({ texts, set, refused, concentrate, onConcentrate, withReadings }: RunFieldsProps) {
  const number = (name: keyof RunTexts, label: string, unit: string) => (
    <NumberField
      label={label}
      unit={unit}
      value={texts[name]}
      onText={(text) => set(name, text)}
      error={refused?.at(name)}
    />
  );
  const more = ['bypass_g', 'moisture_pct', 'note'] as const;
  const moreIsOpen = concentrate || more.some((name) => texts[name] || refused?.at(name));
  return (
    <>
      <div className={classes.fields}>
        {number('dose_g', 'Dose', 'g')}
        {number('brew_water_g', 'Brew water', 'g')}
        <DurationField
          label="Last pour ended"
          value={texts.pour_end_s}
          onText={(text) => set('pour_end_s', text)}
          error={refused?.at('pour_end_s')}
        />
        <DurationField
          label="Total time"
          value={texts.total_time_s}
          onText={(text) => set('total_time_s', text)}
          error={refused?.at('total_time_s')}
        />
        {number('temperature_c', 'Temperature', '°C')}
        {number('beverage_g', 'Beverage mass', 'g')}
        {withReadings && (
          <TextInput
            className={classes.wide}
            label="TDS readings, %"
            description="Three samples from the mixed server, such as 1.41 1.43 1.42. May be left empty."
            autoComplete="off"
            value={texts.tds}
            onChange={(e) => set('tds', e.currentTarget.value)}
            error={refused?.at('tds_readings_pct')}
            styles={{ input: { fontFamily: 'var(--mono)', fontWeight: 500 } }}
          />
        )}
      </div>
      <details className={classes.more} open={moreIsOpen || undefined}>
        <summary>Bypass, moisture, a note</summary>
        <div className={classes.fields}>
          {number('bypass_g', 'Bypass water', 'g')}
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
      </details>
    </>
  );
}
