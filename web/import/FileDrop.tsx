import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { PICTURE_ENDINGS } from '../../contract/picture-files';
import { isOfField } from '../app/field-clipboard';
import { gather, isArchive, laidBy, type Gathered } from './gathered';
import { refuse, takeInArchives } from './imports';

export const ACCEPTED = [...PICTURE_ENDINGS.map(ending => `.${ending}`), '.zip', '.tar', 'image/*'].join(',');

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

/** A picture from the clipboard, which has the same name each time, under the time of day. */
function named(file: File): File {
  if (!/^image\.\w+$/.test(file.name)) return file;
  const now = new Date().toLocaleTimeString('en-GB', {
    hour: '2-digit',
    minute: '2-digit',
    second: '2-digit',
  });
  return new File([file], `Pasted ${now.replaceAll(':', '.')}.${file.name.split('.').at(-1)}`, {
    type: file.type,
  });
}

/** Lets files, folders and zips be laid down anywhere on the screen, and pictures be pasted; says so while they are held over it. */
export function FileDrop({ text, onFiles }: { text: string; onFiles: (files: File[]) => void }) {
  const [over, setOver] = useState(false);
  const client = useQueryClient();
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
    const take = async (laid: readonly (File | FileSystemEntry)[]) => {
      share(await gather(laid), onFiles, client);
    };
    const hold = (event: DragEvent) => {
      if (carriesFiles(event)) event.preventDefault();
    };
    const drop = (event: DragEvent) => {
      if (!carriesFiles(event)) return;
      event.preventDefault();
      depth = 0;
      setOver(false);
      if (event.dataTransfer) void take(laidBy(event.dataTransfer));
    };
    const paste = (event: ClipboardEvent) => {
      // Pictures alone: what else is copied belongs to fields, and to steps.
      const files = [...(event.clipboardData?.files ?? [])];
      if (!files.length || isOfField(event)) return;
      event.preventDefault();
      void take(files.map(named));
    };
    window.addEventListener('dragenter', enter);
    window.addEventListener('dragleave', leave);
    window.addEventListener('dragover', hold);
    window.addEventListener('drop', drop);
    document.addEventListener('paste', paste);
    return () => {
      window.removeEventListener('dragenter', enter);
      window.removeEventListener('dragleave', leave);
      window.removeEventListener('dragover', hold);
      window.removeEventListener('drop', drop);
      document.removeEventListener('paste', paste);
    };
  }, [onFiles, client]);
  return over ? (
    <Veil>
      <p>{text}</p>
    </Veil>
  ) : null;
}

/** Gives pictures to where they were laid down; archives bring their own series. */
function share({ files, refused }: Gathered, onFiles: (files: File[]) => void, client: QueryClient): void {
  const pictures = files.filter(f => !isArchive(f));
  const archives = files.filter(isArchive);
  // Before those that come: they begin a list of their own.
  if (pictures.length) onFiles(pictures);
  if (archives.length) takeInArchives(archives, client);
  refuse(refused);
}

/** Asks for files with the browser's own window. */
export function chooseFiles(onFiles: (files: File[]) => void, client: QueryClient, accept = ACCEPTED): void {
  const input = document.createElement('input');
  input.type = 'file';
  input.multiple = true;
  input.accept = accept;
  input.onchange = () => {
    void gather([...(input.files ?? [])]).then(gathered => share(gathered, onFiles, client));
  };
  input.click();
}
