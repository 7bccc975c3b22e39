/** The time zone of this device, for days and times on paper. */
export const zoneHere = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone;

/** An address of a file of the API, told in this device's time. */
export const fileUrl = (path: string, asking: Readonly<Record<string, string>> = {}): string =>
  `/api/v1${path}?${new URLSearchParams({ zone: zoneHere(), ...asking })}`;

export type Given = 'shared' | 'downloaded' | 'cancelled' | { readonly failed: string };

/** Hands a file to the device's own sharing where it has one that takes files; else it is downloaded. */
export async function giveFile(url: string, name: string): Promise<Given> {
  let data: Blob;
  try {
    const response = await fetch(url, { headers: { 'x-firm-needle': '1' }, credentials: 'same-origin' });
    if (!response.ok) return { failed: await saidBy(response) };
    data = await response.blob();
  } catch {
    return { failed: 'No connection to the server, which writes the file. Try again when there is one.' };
  }
  const file = new File([data], name, { type: data.type });
  if ('canShare' in navigator && navigator.canShare({ files: [file] }))
    try {
      await navigator.share({ files: [file], title: name });
      return 'shared';
    } catch (error) {
      if (error instanceof DOMException && error.name === 'AbortError') return 'cancelled';
    }
  download(file);
  return 'downloaded';
}

/** Puts a file where the device keeps what is downloaded. */
export function download(file: File): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(file);
  link.download = file.name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}

async function saidBy(response: Response): Promise<string> {
  try {
    const { detail, remedy } = (await response.json()) as { detail?: string; remedy?: string };
    return [detail ?? 'The server could not write the file.', remedy].filter(Boolean).join(' ');
  } catch {
    return 'The server could not write the file.';
  }
}
