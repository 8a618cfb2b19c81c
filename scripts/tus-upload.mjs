const TUS = { 'Tus-Resumable': '1.0.0' };
const base64 = (text) => Buffer.from(text).toString('base64');

/**
 * Sends a file by the tus protocol in one go. @returns the answer to its last part
 * @param {string} base
 * @param {{ project: string, role: string, name: string, bytes: any }} file
 */
export async function sendFile(base, file) {
  const { project, role, name, bytes } = file;
  const metadata = `project ${base64(project)},role ${base64(role)},filename ${base64(name)}`;
  const begun = await fetch(`${base}/api/uploads`, {
    method: 'POST',
    headers: { ...TUS, 'Upload-Length': String(bytes.length), 'Upload-Metadata': metadata },
  });
  if (begun.status !== 201) return begun;
  return fetch(`${base}${begun.headers.get('location')}`, {
    method: 'PATCH',
    headers: { ...TUS, 'Upload-Offset': '0', 'Content-Type': 'application/offset+octet-stream' },
    body: bytes,
  });
}
