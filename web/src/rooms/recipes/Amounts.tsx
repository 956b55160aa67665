import { useQuery } from '@tanstack/react-query';
import { clock } from '../../ui/numbers';
import { celsiusTyped, degrees, heatUnit } from '../../ui/units';
import { kitQuery } from '../kit/queries';
import { Cell } from './Cell';
import { GrindSettings } from './GrindSettings';
import type { Checked, RecipeDocument } from './queries';
import classes from './Recipes.module.css';
import { type Reader, readGrams, readHeat, readRatio, readTime } from './reads';

type AmountsProps = {
  doc: RecipeDocument;
  checked: Checked | undefined;
  onChange: (doc: RecipeDocument) => void;
  /** Of an amount that is being typed. */
  onTyping: (typed: Partial<RecipeDocument>) => void;
};

type NumberName = 'dose_g' | 'brew_water_g' | 'brew_ratio' | 'temperature_c' | 'pour_end_s' | 'beverage_g' | 'out_g';
type WindowName = 'total_time_s' | 'tds_pct' | 'ey_pct';
type TextName = 'grind' | 'filter' | 'water' | 'fast' | 'on_time' | 'slow' | 'note';

/** The recipe's own numbers: dose, water, ratio, temperature, brewer, and when it is done. */
export function Amounts({ doc, checked, onChange, onTyping }: AmountsProps) {
  const { data: kit } = useQuery(kitQuery);
  const field = useFields(doc, checked, onChange, onTyping);
  return (
    <div className={classes.amounts}>
      {field.number('dose_g', 'Dose', 'g', readGrams)}
      {field.number('brew_water_g', 'Brew water', 'g', readGrams)}
      {field.number('brew_ratio', 'Ratio', '', readRatio, (v) => `1:${v}`)}
      {field.number('temperature_c', 'Temperature', heatUnit(), readHeat, degrees)}
      <label className={classes.amount}>
        <span>Brewer</span>
        <select
          value={doc.brewer_type ?? ''}
          onChange={(e) => field.set('brewer_type', (e.currentTarget.value || null) as RecipeDocument['brewer_type'])}
        >
          <option value="">any</option>
          {kit?.brewer_types.map((t) => (
            <option key={t.code} value={t.code}>
              {t.label}
            </option>
          ))}
        </select>
      </label>
      <label className={classes.amount}>
        <span>It ends</span>
        <select
          value={doc.ends ?? ''}
          data-where="ends"
          aria-invalid={field.faulty('ends')}
          onChange={(e) => field.set('ends', e.currentTarget.value as RecipeDocument['ends'])}
        >
          <option value="">not said</option>
          <option value="drips_stop">when drips stop</option>
          <option value="time">on time</option>
        </select>
      </label>
      {field.window('total_time_s', 'Done', '', readTime, clock)}
    </div>
  );
}

/** Targets, kit in words, and the taste to expect: below the fold, where most recipes say little. */
export function MoreAmounts({ doc, checked, onChange }: Omit<AmountsProps, 'onTyping'>) {
  const field = useFields(doc, checked, onChange);
  return (
    <details className={classes.more} open={MORE.some((name) => doc[name]) || !!doc.grinds?.length || undefined}>
      <summary>Grind, filter, water, targets, taste</summary>
      <div className={classes.moreGrid}>
        {field.text('grind', 'Grind, in words', 'medium-fine')}
        <GrindSettings doc={doc} onChange={onChange} />
        {field.text('filter', 'Filter', 'white weave, rinsed')}
        {field.text('water', 'Water', 'bench blend')}
        {field.number('pour_end_s', 'All water in by', '', readTime, clock)}
        {field.window('tds_pct', 'TDS target', '%', readPercent)}
        {field.window('ey_pct', 'Yield target', '%', readPercent)}
        {field.number('beverage_g', 'Beverage mass', 'g', readGrams)}
        {field.number('out_g', 'Said only as “out”', 'g', readGrams)}
        <label className={classes.amount}>
          <span>“Out” means</span>
          <select
            value={doc.out_means ?? ''}
            data-where="out_means"
            aria-invalid={field.faulty('out_means')}
            onChange={(e) => field.set('out_means', e.currentTarget.value as RecipeDocument['out_means'])}
          >
            <option value="">not said</option>
            <option value="water">water poured</option>
            <option value="drink">drink in the cup</option>
          </select>
        </label>
        {field.text('fast', 'Taste when too fast', 'thin and sour')}
        {field.text('on_time', 'Taste on time', 'sweet, long')}
        {field.text('slow', 'Taste when too slow', 'drying')}
        {field.text('note', 'Note', '', true)}
      </div>
    </details>
  );
}

const MORE = [
  'grind',
  'filter',
  'water',
  'pour_end_s',
  'beverage_g',
  'out_g',
  'fast',
  'on_time',
  'slow',
  'note',
] as const;
const readPercent: Reader = (text) => readGrams(text.replace(/\s*%$/, ''));

function useFields(
  doc: RecipeDocument,
  checked: Checked | undefined,
  onChange: (doc: RecipeDocument) => void,
  onTyping?: AmountsProps['onTyping'],
) {
  const set = <K extends keyof RecipeDocument>(name: K, value: RecipeDocument[K]) =>
    onChange({ ...doc, [name]: value });
  const faulty = (name: string) => checked?.findings.some((f) => f.where === name) || undefined;
  const number = (
    name: NumberName,
    label: string,
    unit: string,
    read: Reader,
    show: (v: number) => string = String,
  ) => (
    <div className={classes.amount}>
      <span>{label}</span>
      <Cell
        label={label}
        shown={doc[name] == null ? '' : show(doc[name])}
        read={read}
        onValue={(v) => set(name, v)}
        onTyping={
          onTyping && ((v) => onTyping({ [name]: name === 'temperature_c' ? Number(celsiusTyped(String(v))) : v }))
        }
        unit={unit}
        faulty={faulty(name)}
        id={name}
      />
    </div>
  );
  const window = (
    name: WindowName,
    label: string,
    unit: string,
    read: Reader,
    show: (v: number) => string = String,
  ) => {
    const [low = null, high = null] = doc[name] ?? [];
    const end = (value: number | null, which: string, next: (v: number | null) => (number | null)[]) => (
      <Cell
        label={`${label}, ${which}`}
        shown={value == null ? '' : show(value)}
        read={read}
        onValue={(v) => set(name, next(v))}
        faulty={faulty(name)}
        placeholder={which === 'from' ? 'from' : 'to'}
        id={which === 'to' ? name : `${name}-from`}
      />
    );
    return (
      <div className={classes.amount} data-pair>
        <span>
          {label}
          {unit && `, ${unit}`}
        </span>
        <span className={classes.pair}>
          {end(low, 'from', (v) => [v, high])}
          {end(high, 'to', (v) => [low, v])}
        </span>
      </div>
    );
  };
  const text = (name: TextName, label: string, hint: string, wide = false) => (
    <div className={classes.amount} data-wide={wide || undefined}>
      <span>{label}</span>
      <Cell label={label} shown={doc[name] ?? ''} onText={(v) => set(name, v)} placeholder={hint} wide id={name} />
    </div>
  );
  return { set, faulty, number, window, text };
}
