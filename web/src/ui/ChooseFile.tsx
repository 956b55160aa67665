import { FileButton, type FileButtonProps } from '@mantine/core';
import { useRef } from 'react';

type ChooseFileProps = { accept: string; onFile: (file: File) => void; children: FileButtonProps['children'] };

/** A file of this device. The same one may be chosen once more: a browser is silent about it unless its field was emptied, and a file mended on disk keeps its name. */
export function ChooseFile({ accept, onFile, children }: ChooseFileProps) {
  const empty = useRef<() => void>(null);
  return (
    <FileButton
      accept={accept}
      resetRef={empty}
      onChange={(file: File | null) => {
        if (file) onFile(file);
        empty.current?.();
      }}
    >
      {children}
    </FileButton>
  );
}
