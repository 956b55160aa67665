import { NumberField, type useForm } from '../../ui/fields';

type FormNumberProps = {
  form: ReturnType<typeof useForm<Record<string, string>>>;
  name: string;
  label: string;
  unit?: string;
  onTyped?: () => void;
};

/** A number of a form under its own name, with what the bench says of it. */
export function FormNumber({ form, name, label, unit = '', onTyped }: FormNumberProps) {
  return (
    <NumberField
      label={label}
      unit={unit}
      value={form.values[name] ?? ''}
      onText={(text) => {
        onTyped?.();
        form.set(name, text);
      }}
      error={form.refused?.at(name)}
    />
  );
}
