import { TagsInput, type TagsInputProps } from '@mantine/core';
import { useState } from 'react';

type Props = Omit<TagsInputProps, 'data' | 'searchValue' | 'onSearchChange'> & { data: string[] };

/** Several short texts in one field. The list of known ones opens while something is typed or looked for, and closes
 * once a text is taken, so that it never lies over the button below. A known text is taken in its own spelling. */
export function Tags({ onChange, ...rest }: Props) {
  const [typed, setTyped] = useState('');
  const [opened, setOpened] = useState(false);
  return (
    <TagsInput
      {...rest}
      searchValue={typed}
      onSearchChange={(text) => {
        setTyped(text);
        setOpened(text !== '');
      }}
      onChange={(texts) => {
        setOpened(false);
        onChange?.(texts.map((t) => rest.data.find((known) => known.toLowerCase() === t.toLowerCase()) ?? t));
      }}
      dropdownOpened={opened}
      onDropdownOpen={() => setOpened(true)}
      onDropdownClose={() => setOpened(false)}
    />
  );
}
