import { NativeSelect, type NativeSelectProps } from '@mantine/core';

type Option = string | { value: string; label: string };
type PickProps = Omit<NativeSelectProps, 'data' | 'value' | 'onChange'> & {
  data: readonly Option[];
  value: string;
  onPick: (value: string) => void;
};

/** A native select that shows the value it holds: a browser shows the first option in place of one that is not listed. */
export function Pick({ data, value, onPick, ...rest }: PickProps) {
  const isListed = data.some((option) => (typeof option === 'string' ? option : option.value) === value);
  const options = isListed ? data : [{ value, label: 'Choose…' }, ...data];
  return <NativeSelect {...rest} data={[...options]} value={value} onChange={(e) => onPick(e.currentTarget.value)} />;
}
