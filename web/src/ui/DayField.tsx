import { ActionIcon, Popover, TextInput, type TextInputProps } from '@mantine/core';
import '@mantine/dates/styles.layer.css';
import { DatePicker } from '@mantine/dates';
import { IconCalendar } from '@tabler/icons-react';
import { useState } from 'react';
import { dayInWords, readDay } from './day';

type DayFieldProps = Omit<TextInputProps, 'value' | 'onChange'> & {
  /** YYYY-MM-DD, or what was typed and is no day. */
  value: string;
  onText: (text: string) => void;
};

/** A day, typed as people write it (28 Nov, 28.11.2026, yesterday) or taken from a calendar; shown back in words. */
export function DayField({ value, onText, ...rest }: DayFieldProps) {
  const [typed, setTyped] = useState<{ text: string; kept: string }>();
  const [open, setOpen] = useState(false);
  const put = (text: string) => {
    const kept = readDay(text) ?? text;
    setTyped({ text, kept });
    onText(kept);
  };
  const day = readDay(value);
  const unread = value.trim() !== '' && !day && typed === undefined;
  return (
    <TextInput
      placeholder="28 Nov"
      autoComplete="off"
      {...rest}
      error={rest.error ?? (unread ? 'Write a day, such as 28 Nov or 28.11.2026.' : undefined)}
      value={typed?.kept === value ? typed.text : dayInWords(value)}
      onChange={(e) => put(e.currentTarget.value)}
      onBlur={() => setTyped(undefined)}
      rightSection={
        <Popover opened={open} onChange={setOpen} position="bottom-end" withinPortal trapFocus>
          <Popover.Target>
            <ActionIcon
              variant="subtle"
              color="gray"
              aria-label={`Calendar for ${String(rest.label ?? rest['aria-label'] ?? 'the day').toLowerCase()}`}
              onClick={() => setOpen(!open)}
            >
              <IconCalendar size={18} stroke={1.6} aria-hidden />
            </ActionIcon>
          </Popover.Target>
          <Popover.Dropdown>
            <DatePicker
              value={day}
              weekendDays={[]}
              hideOutsideDates
              ariaLabels={{
                nextMonth: 'Next month',
                previousMonth: 'Month before',
                nextYear: 'Next year',
                previousYear: 'Year before',
                nextDecade: 'Next ten years',
                previousDecade: 'Ten years before',
              }}
              defaultDate={day ?? undefined}
              onChange={(chosen) => {
                setTyped(undefined);
                onText(chosen ?? '');
                setOpen(false);
              }}
            />
          </Popover.Dropdown>
        </Popover>
      }
    />
  );
}
