import type { DropzoneState } from 'react-dropzone';

/**
 * The field of files behind a place where files are dropped or chosen: unseen, but with a name for those who hear the
 * page. @param folder whole folders are chosen instead of files.
 */
export function FileInput({
  label,
  props,
  folder = false,
}: {
  label: string;
  props: DropzoneState['getInputProps'];
  folder?: boolean;
}) {
  return <input {...props({ 'aria-label': label, ...(folder ? { webkitdirectory: '' } : {}) } as object)} />;
}
