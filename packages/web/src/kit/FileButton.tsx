import { Button, type ButtonProps } from 'antd';
import { useRef } from 'react';

interface Props extends Pick<ButtonProps, 'size' | 'ghost' | 'children'> {
  accept: string;
  multiple?: boolean;
  onFiles(files: File[]): void;
}

/** A button that asks the browser for files. */
export function FileButton({ accept, multiple = false, onFiles, ...button }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...button} onClick={() => input.current!.click()} />
      <input
        ref={input}
        type="file"
        hidden
        accept={accept}
        multiple={multiple}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          // The same file can be chosen again.
          event.target.value = '';
          if (files.length > 0) onFiles(files);
        }}
      />
    </>
  );
}
