import { useComputedColorScheme, useMantineColorScheme } from '@mantine/core';
import { IconMoon, IconSun } from '@tabler/icons-react';

/** The scheme that is not on, its picture, and turning to it. */
export function useOtherScheme() {
  const { setColorScheme } = useMantineColorScheme();
  const now = useComputedColorScheme('light');
  const next = now === 'dark' ? 'light' : 'dark';
  return { next, Icon: now === 'dark' ? IconSun : IconMoon, turn: () => setColorScheme(next) } as const;
}
