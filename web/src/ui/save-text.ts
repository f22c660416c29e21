/** Gives a text or bytes to the person as a file of that name. */
export function saveText(name: string, content: string | Uint8Array<ArrayBuffer>, type: string): void {
  const url = URL.createObjectURL(new Blob([content], { type }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name.replace(/[/\\]/g, '-');
  link.click();
  URL.revokeObjectURL(url);
}
