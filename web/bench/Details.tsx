import styled from 'styled-components';
import { dateInWords } from '../../words/words';
import type { Photograph } from '../../contract/photographs';
import { Dialog, DialogActions } from '../ui/overlays';
import { Button } from '../ui/buttons';

const List = styled.dl`
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 18px;
  margin-top: 4px;
  dt {
    color: var(--ink-2);
  }
  dd {
    font-weight: 500;
    overflow-wrap: anywhere;
    user-select: text;
  }
`;

const kinds: Record<string, string> = {
  'image/jpeg': 'JPEG',
  'image/png': 'PNG',
  'image/tiff': 'TIFF',
  'image/webp': 'WebP',
  'image/avif': 'AVIF',
  'image/gif': 'GIF',
  'image/bmp': 'BMP',
  'image/heic': 'HEIC',
  'image/jxl': 'JPEG XL',
  'image/jp2': 'JPEG 2000',
  'image/x-raw': 'Raw file of a camera',
  'image/x-raw-preview': 'Raw file of a camera, its preview',
};

/** What the colours of a file without a profile are taken for. */
const withoutProfile = (mediaType: string): string =>
  mediaType === 'image/x-raw' ? 'the camera’s own, as its raw data says' : 'none embedded; taken as sRGB';

/** What is known of the original, with its SHA-256 and the file itself. */
export function Details({
  photograph: p,
  isCover,
  onCover,
  onClose,
}: {
  photograph: Photograph;
  isCover: boolean;
  onCover: () => void;
  onClose: () => void;
}) {
  return (
    <Dialog title={p.title} onClose={onClose}>
      <List>
        {p.caption ? (
          <>
            <dt>Caption</dt>
            <dd>{p.caption}</dd>
          </>
        ) : null}
        {p.taken ? (
          <>
            <dt>Taken on</dt>
            <dd>{dateInWords(p.taken)}</dd>
          </>
        ) : null}
        {p.camera ? (
          <>
            <dt>Taken with</dt>
            <dd>{p.camera}</dd>
          </>
        ) : null}
        {p.author ? (
          <>
            <dt>Taken by</dt>
            <dd>{p.author}</dd>
          </>
        ) : null}
        <dt>File</dt>
        <dd>{p.fileName}</dd>
        <dt>Kind</dt>
        <dd>
          {kinds[p.mediaType] ?? p.mediaType}, {p.bits} bits, {p.grey ? 'grey' : 'colour'}
        </dd>
        <dt>Size</dt>
        <dd>
          {p.width} × {p.height} ({((p.width * p.height) / 1e6).toFixed(1)} megapixels)
        </dd>
        <dt>Profile</dt>
        <dd>{p.profile ?? withoutProfile(p.mediaType)}</dd>
        {p.damage ? (
          <>
            <dt>Damaged</dt>
            <dd>{p.damage}</dd>
          </>
        ) : null}
        {p.part ? (
          <>
            <dt>Of it</dt>
            <dd>{p.part}</dd>
          </>
        ) : null}
        <dt>SHA-256</dt>
        <dd>{p.sha256}</dd>
      </List>
      <DialogActions>
        <a
          href={`/api/photographs/${p.id}/original`}
          style={{ textDecoration: 'underline', marginRight: 'auto', alignSelf: 'center' }}
        >
          The original, as it was brought in
        </a>
        <Button isDisabled={isCover} onPress={onCover}>
          {isCover ? 'Cover of the series' : 'Make it the cover'}
        </Button>
        <Button $ink onPress={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
