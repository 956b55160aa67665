import { Button, Group } from '@mantine/core';

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
};

/** Says that what was typed before is back, and asks which counts where it was typed for something else. */
export function Restored({ form, labels = {} }: RestoredProps) {
  if (form.contested.length) {
    const said = form.contested.map(
      ({ field, offered }) =>
        `${labels[field] ?? named(field)}: you typed ${shown(form.values[field])}, ${offered ? `now ${shown(offered)}` : 'now empty'}`,
    );
    return (
      <div className="restored" role="status">
        <p>{said.join('; ')}. Which counts?</p>
        <Group gap="xs">
          <Button size="compact-sm" onClick={() => form.settle('offered')}>
            Use the new values
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

const shown = (value: unknown) =>
  typeof value === 'string' || typeof value === 'number' ? `${value}` : 'another choice';
const named = (field: string) => {
  const words = field.replace(/_(g|c|pct|s)$/, '').replaceAll('_', ' ');
  return words.charAt(0).toUpperCase() + words.slice(1);
};
