import { Button } from '../ui/buttons';
import { Dialog, DialogActions } from '../ui/overlays';

/** Asks what a grey picture of the photograph's shape is meant to be. */
export function AreaOrPhotograph({
  file,
  onArea,
  onPhotograph,
  onClose,
}: {
  file: File;
  onArea: () => void;
  onPhotograph: () => void;
  onClose: () => void;
}) {
  return (
    <Dialog title="An area, or a photograph?" onClose={onClose}>
      <p>
        {file.name} is a grey picture of the shape of this photograph. As an area it covers where it is white;
        as a photograph it goes into the series.
      </p>
      <DialogActions>
        <Button onPress={onClose}>Leave it</Button>
        <Button onPress={onPhotograph}>Bring it in as a photograph</Button>
        <Button $ink autoFocus onPress={onArea}>
          Lay it on as an area
        </Button>
      </DialogActions>
    </Dialog>
  );
}
