import { Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { fixed } from '../../ui/numbers';
import { recipesQuery } from './queries';

type RecipePickerProps = {
  label: string;
  /** The newest version's id, empty for none. */
  value: string;
  onChange: (versionId: string) => void;
  error?: string | undefined;
};

/** A recipe by its newest version; drafts cannot be put in a run, so they cannot be chosen. */
export function RecipePicker({ label, value, onChange, error }: RecipePickerProps) {
  const { data } = useQuery(recipesQuery);
  return (
    <Select
      label={label}
      placeholder="none: amounts are typed"
      clearable
      clearButtonProps={{ 'aria-label': 'No recipe' }}
      searchable
      value={value || null}
      onChange={(v) => onChange(v ?? '')}
      error={error}
      data={(data?.recipes ?? []).map((r) => ({
        value: r.version_id,
        label: r.draft ? `${r.name} (draft)` : `${r.name}${r.brew_ratio ? `, 1:${fixed(r.brew_ratio, 1)}` : ''}`,
        disabled: r.draft,
      }))}
    />
  );
}
