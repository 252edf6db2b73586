/** Asks for files with the browser's own dialog. */
export function chooseFiles(onFiles: (files: readonly File[]) => void): void {
  const input = document.createElement('input');
  input.type = 'file';
  input.multiple = true;
  input.addEventListener('change', () => onFiles([...(input.files ?? [])]), { once: true });
  input.click();
}
