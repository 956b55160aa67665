import { useDebouncedValue } from '@mantine/hooks';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Refused, type Schemas } from '../../api/client';
import { fixed, readNumber } from '../../ui/numbers';
import { ratio } from '../../ui/units';
import { extractionQuery } from '../calculators/queries';
import classes from './Brew.module.css';

type YieldBasis = Schemas['ResultsAnswer']['yield_basis'];
type Weighed = Record<
  'dose_g' | 'beverage_g' | 'brew_water_g' | 'bypass_g' | 'moisture_pct' | 'tds_readings_pct',
  string
>;
type LivePreviewProps = {
  texts: Weighed;
  /** What was read of it before, % TDS. */
  read: number[];
  concentrate: boolean;
  yield_basis: YieldBasis;
};

/** What the numbers typed so far come to, worked out by the bench. */
export function LivePreview({ texts, read, concentrate, yield_basis }: LivePreviewProps) {
  // As text: a page that ticks draws this anew many times a second, and only a change may start the wait anew.
  const [typed] = useDebouncedValue(JSON.stringify(asked(texts, read, concentrate)), 200);
  const body = useMemo(() => JSON.parse(typed) as ReturnType<typeof asked>, [typed]);
  const { data, error } = useQuery({ ...extractionQuery(body), placeholderData: keepPreviousData });
  if (!body) return <p className={classes.preview}>The yield shows here.</p>;
  if (error) {
    return (
      <p className={classes.preview} role="alert" data-trouble>
        {error instanceof Refused ? error.message : 'The bench does not answer.'}
      </p>
    );
  }
  if (!data) return <p className={classes.preview}> </p>;
  const [value, interval] =
    yield_basis === 'in_cup'
      ? [data.ey_in_cup_pct, data.ey_in_cup_interval_pct]
      : [data.ey_full_liquor_pct, data.ey_full_liquor_interval_pct];
  return (
    <div className={classes.preview} role="status">
      <p>
        {value !== null && interval && (
          <>
            Yield <b className="num">{fixed(value, 1)}</b>{' '}
            <span className="num">± {fixed((interval[1]! - interval[0]!) / 2, 1)} %</span> ·{' '}
          </>
        )}
        TDS <b className="num">{fixed(data.tds_pct)} %</b> · <span className="num">{ratio(data.brew_ratio)}</span>
        {data.retained_water_ratio !== null && (
          <>
            {' '}
            · kept <span className="num">{fixed(data.retained_water_ratio)} g/g</span>
          </>
        )}
      </p>
      {data.warnings
        .filter((w) => w.code !== 'no_brew_water')
        .map((w) => (
          <p key={w.code} className={classes.warning}>
            {w.text}
          </p>
        ))}
    </div>
  );
}

function asked(texts: Weighed, read: number[], concentrate: boolean): Schemas['ExtractionBody'] | null {
  const value = (text: string) => {
    const read = readNumber(text);
    return read.kind === 'number' ? read.value : null;
  };
  const [dose, beverage] = [value(texts.dose_g), value(texts.beverage_g)];
  const typed = texts.tds_readings_pct
    .split(/[\s;/]+/)
    .filter(Boolean)
    .map(value);
  const readings = [...read, ...typed];
  if (!dose || !beverage || !readings.length || readings.some((r) => r === null)) return null;
  return {
    dose_g: dose,
    beverage_g: beverage,
    brew_water_g: value(texts.brew_water_g),
    bypass_g: value(texts.bypass_g) ?? 0,
    moisture_pct: value(texts.moisture_pct) ?? 0,
    tds_readings_pct: readings as number[],
    concentrate,
  };
}
