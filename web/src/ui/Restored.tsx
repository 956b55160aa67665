import { Button, Group } from '@mantine/core';
import { celsiusShown, heatUnit } from './units';

type RestoredProps = {
  form: {
    restored: boolean;
    startAfresh: () => void;
    contested: { field: string; offered: unknown }[];
    settle: (choice: 'typed' | 'offered') => void;
    values: Record<string, unknown>;
  };
  /** Field → its label, where its name does not say it. */
  labels?: Record<string, string>;
  /** Where the other value comes from. */
  from?: 'recipe' | 'form';
};

/** Says that what was typed before is back, and asks which counts where it was typed for something else. */
export function Restored({ form, labels = {}, from = 'form' }: RestoredProps) {
  const words = WORDS[from];
  if (form.contested.length) {
    const lines = form.contested.map(({ field, offered }) => {
      const typed = `${labels[field] ?? named(field)}: you typed ${shown(field, form.values[field])}`;
      return offered ? `${typed}, ${words.says} ${shown(field, offered)}.` : `${typed} for ${words.other}.`;
    });
    return (
      <div className="restored" role="status">
        <p>{lines.join(' ')} Which counts?</p>
        <Group gap="xs" mt={6}>
          <Button size="compact-sm" onClick={() => form.settle('offered')}>
            {form.contested.some((c) => c.offered) ? words.use : 'Clear it'}
          </Button>
          <Button size="compact-sm" variant="default" onClick={() => form.settle('typed')}>
            Keep what I typed
          </Button>
        </Group>
      </div>
    );
  }
  if (!form.restored) return null;
  return (
    <p className="restored" role="status">
      What you typed here before is back.
      <Button size="compact-sm" variant="subtle" onClick={() => form.startAfresh()}>
        Clear it
      </Button>
    </p>
  );
}

const WORDS = {
  recipe: { says: 'the recipe says', other: 'another recipe', use: 'Use the recipe’s' },
  form: { says: 'now it is', other: 'something else', use: 'Use the new value' },
};
const UNITS: Record<string, string> = { g: 'g', pct: '%', s: 's' };
const SUFFIX = /_(g|c|pct|s)$/;

function shown(field: string, value: unknown): string {
  if (typeof value !== 'string' && typeof value !== 'number') return 'another choice';
  const unit = SUFFIX.exec(field)?.[1];
  if (unit === 'c') return `${celsiusShown(String(value), false)} ${heatUnit()}`;
  return unit ? `${value} ${UNITS[unit]}` : `“${value}”`;
}

function named(field: string): string {
  const words = field.replace(SUFFIX, '').replaceAll('_', ' ');
  return words.charAt(0).toUpperCase() + words.slice(1);
}
