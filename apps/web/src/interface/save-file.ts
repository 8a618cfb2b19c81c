/** Saves something made on the page as a file of the reader's. */
export function saveFile(name: string, data: BlobPart, type = 'application/octet-stream'): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([data], { type }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}

/** Saves what the server hands out at an address; it names the file, and the browser shows how far it is. */
export function saveAddress(address: string): void {
  const link = document.createElement('a');
  link.href = address;
  link.download = '';
  link.click();
}
