import { Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { ratio } from '../../ui/units';
import { recipesQuery } from './queries';

type RecipePickerProps = {
  label: string;
  /** A version's id, empty for none. */
  value: string;
  onChange: (versionId: string) => void;
  error?: string | undefined;
};

/** A recipe by its newest version or an earlier one; drafts cannot be put in a run, so they cannot be chosen. */
export function RecipePicker({ label, value, onChange, error }: RecipePickerProps) {
  const { data } = useQuery(recipesQuery);
  return (
    <Select
      label={label}
      placeholder="No recipe (enter amounts)"
      clearable
      clearButtonProps={{ 'aria-label': 'No recipe' }}
      searchable
      value={value || null}
      onChange={(v) => onChange(v ?? '')}
      error={error}
      data={(data?.recipes ?? []).flatMap((r) => [
        {
          value: r.version_id,
          label: r.draft ? `${r.name} (draft)` : `${r.name}${r.brew_ratio ? `, ${ratio(r.brew_ratio)}` : ''}`,
          disabled: r.draft,
        },
        ...r.older.map((v) => ({ value: v.id, label: `${r.name}, earlier version ${v.number}`, disabled: false })),
      ])}
    />
  );
}
