import type { KitItem, KitKind } from './queries';

/** How each kind's facts are asked for. `half` fields stand two in a row. */
export type FactField = {
  name: string;
  label: string;
  kind: 'number' | 'text' | 'date' | 'choice' | 'yes' | 'duration' | 'grinder' | 'brewer_type' | 'hardness';
  unit?: string;
  hint?: string;
  options?: [code: string, label: string][];
};

const n = (name: string, label: string, unit = '', hint = ''): FactField => ({
  name,
  label,
  kind: 'number',
  unit,
  hint,
});
const t = (name: string, label: string, hint = ''): FactField => ({ name, label, kind: 'text', hint });
const yes = (name: string, label: string): FactField => ({ name, label, kind: 'yes' });
const choice = (name: string, label: string, options: [string, string][]): FactField => ({
  name,
  label,
  kind: 'choice',
  options,
});

export const KINDS: { kind: KitKind; one: string; many: string }[] = [
  { kind: 'coffee', one: 'Coffee', many: 'Coffees' },
  { kind: 'grinder', one: 'Grinder', many: 'Grinders' },
  { kind: 'filter', one: 'Filter', many: 'Filters' },
  { kind: 'brewer', one: 'Brewer', many: 'Brewers' },
  { kind: 'water', one: 'Water', many: 'Waters' },
  { kind: 'kettle', one: 'Kettle', many: 'Kettles' },
  { kind: 'vessel', one: 'Cup or server', many: 'Cups, servers' },
  { kind: 'instrument', one: 'Instrument', many: 'Instruments' },
];

export const oneOf = (kind: KitKind) => (kind === 'burr_set' ? 'Burr set' : KINDS.find((k) => k.kind === kind)!.one);

export const FACT_FIELDS: Record<KitKind, FactField[]> = {
  coffee: [
    t('lot', 'Lot'),
    t('origin', 'Origin'),
    t('variety', 'Variety'),
    t('process', 'Process', 'washed, natural, honey…'),
    choice('species', 'Species', [
      ['arabica', 'Arabica'],
      ['robusta', 'Robusta type'],
      ['blend', 'A blend of both'],
    ]),
    n('robusta_share', 'Robusta share, of a blend', '0–1'),
    choice('roast', 'Roast', [
      ['light', 'Light'],
      ['medium_light', 'Medium light'],
      ['medium', 'Medium'],
      ['medium_dark', 'Medium dark'],
      ['dark', 'Dark'],
    ]),
    { name: 'roasted_on', label: 'Roasted on', kind: 'date' },
    t('solubility_note', 'Density, solubility', 'dense, high grown'),
    n('price_per_kg', 'Price', 'per kg'),
    n('published_score', 'Published score', 'of 100'),
    yes('may_hold_alcohol', 'Barrel-aged: may carry alcohol'),
  ],
  grinder: [
    choice('drive', 'Driven by', [
      ['electric', 'A motor'],
      ['hand', 'Hand'],
    ]),
    choice('scale', 'Scale', [
      ['dial', 'Numbered dial'],
      ['clicks', 'Clicks'],
      ['stepless', 'Stepless'],
    ]),
    choice('direction', 'A larger number is', [
      ['larger_is_coarser', 'Coarser'],
      ['larger_is_finer', 'Finer'],
    ]),
    n('step', 'Smallest step'),
    n('zero', 'Burrs touch at'),
    n('finest', 'Finest usable setting'),
    n('rate_g_s', 'Grinds', 'g/s'),
    n('retention_g', 'Keeps back', 'g'),
    n('purge_g', 'Purged before a dose', 'g'),
    n('price', 'Price'),
    t('note', 'Note', 'popcorning, mess, how it cleans'),
  ],
  burr_set: [
    { name: 'grinder_id', label: 'Sits in', kind: 'grinder' },
    t('geometry', 'Geometry', 'flat, 64 mm'),
    n('zero', 'Burrs touch at'),
    n('finest', 'Finest usable setting'),
    n('rate_g_s', 'Grinds', 'g/s'),
    n('price', 'Price'),
    t('note', 'Note'),
  ],
  filter: [
    choice('material', 'Material', [
      ['paper', 'Paper'],
      ['mesh', 'Mesh'],
      ['metal', 'Metal'],
      ['cloth', 'Cloth'],
    ]),
    t('thickness', 'Thickness', '0.21 mm'),
    t('pores', 'Pores', '200 µm'),
    t('size', 'Size'),
    n('price_each', 'Price', 'each'),
    yes('rinsed', 'Rinsed before use'),
    yes('reusable', 'Reusable'),
    t('care', 'Care', 'hot rinse, weekly soak'),
  ],
  brewer: [
    { name: 'brewer_type', label: 'Type', kind: 'brewer_type' },
    choice('school', 'Yield quoted as', [
      ['in_cup', 'In-cup yield'],
      ['full_liquor', 'Full-liquor yield'],
    ]),
    n('dose_low_g', 'Works from', 'g'),
    n('dose_high_g', 'up to', 'g'),
    n('volume_ml', 'Holds', 'mL'),
    n('count', 'How many there are'),
    t('outlet', 'Outlet'),
    t('material', 'Material'),
    n('price', 'Price'),
    t('note', 'Note', 'forgiving, runs slow'),
  ],
  water: [
    { name: 'hardness_mg_l', label: 'Total hardness', kind: 'hardness' },
    { name: 'alkalinity_mg_l', label: 'Alkalinity', kind: 'hardness' },
    n('minerals_mg_l', 'Minerals, all', 'mg/L', 'a conductivity pen; not the TDS of a drink'),
    t('note', 'Note'),
  ],
  kettle: [
    n('volume_ml', 'Holds', 'mL'),
    n('set_c', 'Set to', '°C'),
    { name: 'heat_s', label: 'Heats from cold in', kind: 'duration' },
    { name: 'reheat_s', label: 'Reheats between brews in', kind: 'duration' },
    t('note', 'Note'),
  ],
  vessel: [
    choice('use', 'It is a', [
      ['server', 'Server'],
      ['cup', 'Cup'],
    ]),
    n('volume_ml', 'Holds', 'mL'),
    n('room_c', 'Room', '°C'),
    n('first_c', 'First reading', '°C'),
    n('second_c', 'Second reading', '°C'),
    { name: 'after_s', label: 'Time between them', kind: 'duration' },
    yes('insulated', 'Insulated'),
    t('note', 'Note'),
  ],
  instrument: [
    choice('measures', 'Measures', [
      ['mass', 'Mass'],
      ['temperature', 'Temperature'],
      ['strength', 'Strength of a drink'],
      ['particle_size', 'Particle size'],
      ['water', 'Water'],
    ]),
    t('unit', 'Unit', 'g, °C, % TDS'),
    n('resolution', 'Steps'),
    n('accuracy', 'Accuracy, half-width'),
    { name: 'checked_on', label: 'Last checked', kind: 'date' },
    t('checked_against', 'Against', 'distilled water, a 100 g weight'),
    t('note', 'Note'),
  ],
};

export type FactTexts = Record<string, string>;

/** The facts of an item as typed texts; yes is "yes". */
export function factTexts(item: KitItem | null, kind: KitKind): FactTexts {
  const facts = (item?.[kind] ?? {}) as Record<string, unknown>;
  const stated = Object.entries(facts).map(([name, value]) => [
    name,
    value === null || value === undefined || value === false ? '' : value === true ? 'yes' : String(value),
  ]);
  return { ...Object.fromEntries(FACT_FIELDS[kind].map((f) => [f.name, ''])), ...Object.fromEntries(stated) };
}
