import { Button, Modal, SegmentedControl } from '@mantine/core';
import { IconCamera } from '@tabler/icons-react';
import { useState } from 'react';
import { PHOTO_KINDS } from '../../api/vocabulary';
import { labelOf, optionsOf } from '../../api/words';
import { ChooseFile } from '../../ui/ChooseFile';
import { localRefusal } from '../../ui/fields';
import { dayAndTime } from '../../ui/numbers';
import { tellTrouble, useTellDeleted } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import classes from './Photos.module.css';
import { addPhoto, type Photo, type PhotoKind, removePhoto } from './queries';
import { shrunk } from './shrink';

const TAKEN = 'image/jpeg,image/png,image/webp';

/** Pictures of a brew's bed and cup: small ones in a row, one large at a press, another from the camera or a file. */
export function Photos({ runId, label, photos }: { runId: string; label: string; photos: Photo[] }) {
  const [shown, setShown] = useState<Photo | null>(null);
  const [kind, setKind] = useState<PhotoKind>('bed');
  const [asking, setAsking] = useState(false);
  const add = useSend(
    async (file: File) => {
      const data = await shrunk(file).catch(() => {
        throw localRefusal('data', 'this is no picture that can be read.', 'Choose a JPEG, PNG or WebP.');
      });
      return addPhoto(runId, kind, data);
    },
    { onDone: () => setAsking(false) },
  );
  return (
    <>
      {photos.map((p) => (
        <button key={p.id} type="button" className={classes.small} onClick={() => setShown(p)}>
          <img src={`/api/v1/photos/${p.id}`} alt={`${labelOf(PHOTO_KINDS, p.kind)} of brew ${label}`} loading="lazy" />
        </button>
      ))}
      <Button
        size="compact-sm"
        variant="subtle"
        leftSection={<IconCamera size={16} aria-hidden />}
        aria-label={`Add a photo of brew ${label}`}
        onClick={() => setAsking(true)}
      >
        Photo
      </Button>
      {asking && (
        <Modal opened onClose={() => setAsking(false)} title={`A photo of brew ${label}`} size="sm">
          <div className={classes.asking}>
            <SegmentedControl
              aria-label="What it shows"
              value={kind}
              onChange={(v) => setKind(v as PhotoKind)}
              data={optionsOf(PHOTO_KINDS)}
            />
            <ChooseFile accept={TAKEN} onFile={(file) => add.mutate(file)}>
              {(props) => (
                <Button {...props} size="md" loading={add.isPending} data-autofocus>
                  Take or choose a picture
                </Button>
              )}
            </ChooseFile>
            <p className="quiet small">It is kept small, without where or when it was taken.</p>
          </div>
        </Modal>
      )}
      {shown && <Large photo={shown} label={label} onClose={() => setShown(null)} />}
    </>
  );
}

function Large({ photo, label, onClose }: { photo: Photo; label: string; onClose: () => void }) {
  const tellDeleted = useTellDeleted();
  const remove = useSend(() => removePhoto(photo.id), {
    onDone: (done) => {
      tellDeleted('The photo', done.change_id);
      onClose();
    },
    onTrouble: (error) => {
      tellTrouble(error);
      return true;
    },
  });
  const called = `${labelOf(PHOTO_KINDS, photo.kind)} of brew ${label}`;
  return (
    <Modal opened onClose={onClose} title={called} size="xl">
      <img className={classes.large} src={`/api/v1/photos/${photo.id}`} alt={called} />
      <div className={classes.foot}>
        <span className="quiet small">{dayAndTime(photo.created_at)}</span>
        <Button variant="subtle" color="red" loading={remove.isPending} onClick={() => remove.mutate()}>
          Delete the photo
        </Button>
      </div>
    </Modal>
  );
}
