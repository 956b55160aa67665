import { type ButtonProps, type CSSVariablesResolver, createTheme, type MantineColorsTuple } from '@mantine/core';

const verdigris: MantineColorsTuple = [
  '#eaf5f2',
  '#d4e8e2',
  '#a9d2c7',
  '#7dbbab',
  '#56a591',
  '#37907b',
  '#1b7563',
  '#11564a',
  '#0c4239',
  '#072c26',
];

export const theme = createTheme({
  fontFamily: 'var(--sans)',
  fontFamilyMonospace: 'var(--mono)',
  headings: { fontFamily: 'var(--sans)' },
  colors: { verdigris },
  primaryColor: 'verdigris',
  primaryShade: { light: 6, dark: 4 },
  defaultRadius: 6,
  fontSizes: { xs: '13.5px', sm: '15px', md: '16.5px', lg: '19px', xl: '22px' },
  cursorType: 'pointer',
  components: {
    Button: {
      defaultProps: { size: 'sm' },
      styles: { label: { fontWeight: 620 } },
      vars: (_: unknown, { variant = 'filled', color, size }: ButtonProps) => ({
        root: {
          ...(variant === 'filled' && !color && { '--button-color': 'var(--on-verdigris)' }),
          ...(String(size).startsWith('compact') && { '--button-height': '32px' }), // small to read, not to hit
        },
      }),
    },
    Chip: {
      defaultProps: { variant: 'outline' },
      styles: { label: { borderColor: 'var(--line-strong)' } },
    },
    Drawer: { styles: { title: { fontWeight: 680, fontStretch: '112%', fontSize: 17 } } },
    Input: {
      styles: {
        input: { borderColor: 'var(--line-strong)' },
        wrapper: { '--input-bg': 'var(--surface)' } as Record<string, string>,
      },
    },
    InputWrapper: {
      defaultProps: { inputWrapperOrder: ['label', 'input', 'description', 'error'] },
    },
    Modal: {
      defaultProps: { centered: true, closeButtonProps: { 'aria-label': 'Close' } },
      styles: { title: { fontWeight: 680, fontStretch: '112%', fontSize: 17 } },
    },
    Popover: { defaultProps: { shadow: 'md', withArrow: true } },
    SegmentedControl: {
      styles: {
        root: { backgroundColor: 'var(--sunk)', border: '1px solid var(--line)' },
        indicator: { backgroundColor: 'var(--surface)' },
      },
    },
  },
});

/** Mantine's own colours come from our tokens, so that one file holds them all. */
export const resolver: CSSVariablesResolver = () => {
  const shared = {
    '--mantine-color-body': 'var(--surface)',
    '--mantine-color-text': 'var(--ink)',
    '--mantine-color-dimmed': 'var(--ink-2)',
    '--mantine-color-placeholder': 'var(--ink-3)',
    '--mantine-color-error': 'var(--oxide)',
    '--mantine-color-default': 'var(--surface)',
    '--mantine-color-default-hover': 'var(--sunk)',
    '--mantine-color-default-color': 'var(--ink)',
    '--mantine-color-default-border': 'var(--line-strong)',
    '--mantine-color-anchor': 'var(--verdigris)',
    '--mantine-primary-color-filled': 'var(--verdigris)',
    '--mantine-primary-color-filled-hover': 'var(--verdigris-deep)',
    '--mantine-primary-color-contrast': 'var(--on-verdigris)',
    '--mantine-primary-color-light': 'var(--verdigris-wash)',
    '--mantine-primary-color-light-hover': 'var(--verdigris-wash)',
    '--mantine-primary-color-light-color': 'var(--verdigris-deep)',
    '--mantine-color-red-filled': '#a33a25',
    '--mantine-color-red-filled-hover': '#8a2f1d',
    '--mantine-color-red-text': 'var(--oxide)',
    '--mantine-color-red-outline': 'var(--oxide)',
    '--mantine-color-red-light': 'var(--oxide-wash)',
    '--mantine-color-red-light-hover': 'var(--oxide-wash)',
    '--mantine-color-red-light-color': 'var(--oxide)',
    '--mantine-color-verdigris-filled': 'var(--verdigris)',
    '--mantine-color-verdigris-filled-hover': 'var(--verdigris-deep)',
    '--mantine-color-verdigris-light': 'var(--verdigris-wash)',
    '--mantine-color-verdigris-light-hover': 'var(--verdigris-wash)',
    '--mantine-color-verdigris-light-color': 'var(--verdigris-deep)',
    '--mantine-color-verdigris-text': 'var(--verdigris)',
    '--mantine-color-verdigris-outline': 'var(--verdigris)',
  };
  return { variables: {}, light: shared, dark: shared };
};
