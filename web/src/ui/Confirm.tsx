import { Button, Group, Modal, Text } from '@mantine/core';
import { useState } from 'react';

type ConfirmProps = {
  /** What is about to happen, as a question. */
  question: string;
  detail: string;
  verb: string;
  onYes: () => void;
  children: (ask: () => void) => React.ReactNode;
};

/** Asks before something is deleted or locked. */
export function Confirm({ question, detail, verb, onYes, children }: ConfirmProps) {
  const [open, setOpen] = useState(false);
  const yes = () => {
    setOpen(false);
    onYes();
  };
  return (
    <>
      {children(() => setOpen(true))}
      <Modal opened={open} onClose={() => setOpen(false)} title={question} size="sm">
        <Text size="sm">{detail}</Text>
        <Group justify="flex-end" mt="md">
          <Button variant="default" onClick={() => setOpen(false)}>
            Cancel
          </Button>
          <Button color="red" onClick={yes} data-autofocus>
            {verb}
          </Button>
        </Group>
      </Modal>
    </>
  );
}
