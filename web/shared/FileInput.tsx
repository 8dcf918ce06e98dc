import type { DropzoneState } from 'react-dropzone';

/** The field of files behind a place where files are dropped or chosen: unseen, but with a name for those who hear the page. */
export function FileInput({ label, props }: { label: string; props: DropzoneState['getInputProps'] }) {
  return <input {...props({ 'aria-label': label } as object)} />;
}
