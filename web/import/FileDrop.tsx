import { useEffect, useState } from 'react';
import styled from 'styled-components';

export const ACCEPTED =
  '.jpg,.jpeg,.png,.tif,.tiff,.webp,.avif,image/jpeg,image/png,image/tiff,image/webp,image/avif';

const Veil = styled.div`
  position: fixed;
  inset: var(--bar) 0 0;
  background: rgb(0 0 0 / 0.35);
  display: grid;
  place-items: center;
  z-index: 15;
  pointer-events: none;
  p {
    background: var(--paper-high);
    border-radius: var(--r-label);
    box-shadow: var(--shade-float);
    padding: 14px 20px;
    font-size: 15px;
    font-weight: 600;
  }
`;

const carriesFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false;

/** Lets files be laid down anywhere on the screen, and says so while they are held over it. */
export function FileDrop({ text, onFiles }: { text: string; onFiles: (files: File[]) => void }) {
  const [over, setOver] = useState(false);
  useEffect(() => {
    let depth = 0;
    const enter = (event: DragEvent) => {
      if (!carriesFiles(event)) return;
      depth++;
      setOver(true);
    };
    const leave = (event: DragEvent) => {
      if (!carriesFiles(event)) return;
      depth = Math.max(0, depth - 1);
      if (!depth) setOver(false);
    };
    const hold = (event: DragEvent) => {
      if (carriesFiles(event)) event.preventDefault();
    };
    const drop = (event: DragEvent) => {
      if (!carriesFiles(event)) return;
      event.preventDefault();
      depth = 0;
      setOver(false);
      const files = [...(event.dataTransfer?.files ?? [])];
      if (files.length) onFiles(files);
    };
    window.addEventListener('dragenter', enter);
    window.addEventListener('dragleave', leave);
    window.addEventListener('dragover', hold);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragenter', enter);
      window.removeEventListener('dragleave', leave);
      window.removeEventListener('dragover', hold);
      window.removeEventListener('drop', drop);
    };
  }, [onFiles]);
  return over ? (
    <Veil>
      <p>{text}</p>
    </Veil>
  ) : null;
}

/** Asks for files with the browser's own window. */
export function chooseFiles(onFiles: (files: File[]) => void): void {
  const input = document.createElement('input');
  input.type = 'file';
  input.multiple = true;
  input.accept = ACCEPTED;
  input.onchange = () => onFiles([...(input.files ?? [])]);
  input.click();
}
