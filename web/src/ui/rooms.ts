import { BenchMark, ChartsMark, GrindMark, KitMark, RecipesMark, TrialsMark } from './marks';

/** The rooms of the rail, and the keys that lead there. */
export const ROOMS = [
  { to: '/', label: 'Bench', keys: 'g b', Mark: BenchMark },
  { to: '/trials', label: 'Trials', keys: 'g t', Mark: TrialsMark },
  { to: '/recipes', label: 'Recipes', keys: 'g r', Mark: RecipesMark },
  { to: '/kit', label: 'Kit', keys: 'g k', Mark: KitMark },
  { to: '/grind', label: 'Grind', keys: 'g g', Mark: GrindMark },
  { to: '/chart-room', label: 'Charts', keys: 'g c', Mark: ChartsMark },
] as const;

/** Pages that have no place on the rail. */
export const PAGES = [
  { to: '/people', label: 'People and phones', keys: 'g p' },
  { to: '/words', label: 'Glossary', keys: 'g w' },
  { to: '/kit/instruments', label: 'Instruments, place and units', keys: 'g i' },
  { to: '/recipes/new', label: 'Write a recipe', keys: '' },
  { to: '/recipes/compare', label: 'Compare recipes', keys: '' },
  { to: '/kit/translator', label: 'Translate a grind setting', keys: '' },
  { to: '/kit/blend', label: 'Blend waters', keys: '' },
  { to: '/grind/sample', label: 'Weigh a sieve sample', keys: '' },
] as const;

/** The stations of a trial, each reached by its number. */
export const STATIONS = ['ask', 'set-up', 'brew', 'measure', 'taste', 'verdict'] as const;

/** What a phone finds under "More". */
export const MORE = [
  { to: '/grind', label: 'Grind' },
  { to: '/brew', label: 'Brew a cup' },
  ...PAGES.slice(0, 3),
] as const;
