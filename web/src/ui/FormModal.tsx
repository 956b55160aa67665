import { Modal } from '@mantine/core';
import type { ReactNode } from 'react';

type FormModalProps = {
  title: string;
  className?: string;
  onClose: () => void;
  onSend: () => void;
  children: ReactNode;
};

/** A form in a dialog, sent with Enter as with its button. */
export function FormModal({ title, className, onClose, onSend, children }: FormModalProps) {
  return (
    <Modal opened onClose={onClose} title={title} size="lg">
      <form
        className={className}
        onSubmit={(e) => {
          e.preventDefault();
          onSend();
        }}
      >
        {children}
      </form>
    </Modal>
  );
}
