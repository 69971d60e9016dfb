import { Refusal } from './client';

/** Sends a file and tells how much of it is gone. */
export function send<T>(url: string, file: File, told: (share: number) => void): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', url);
    request.setRequestHeader('Content-Type', 'application/octet-stream');
    request.upload.onprogress = (e) => e.lengthComputable && told(e.loaded / e.total);
    const refuse = (detail: string, remedy: string) =>
      reject(new Refusal({ type: 'about:blank', title: 'Not sent', status: request.status, detail, remedy }));
    request.onerror = () => refuse('The file did not arrive', 'try again; nothing was changed');
    request.onload = () => {
      try {
        const body = JSON.parse(request.responseText);
        if (request.status < 300) {
          resolve(body as T);
        } else {
          reject(new Refusal(body));
        }
      } catch {
        refuse('The answer could not be read', 'try again; nothing was changed');
      }
    };
    request.send(file);
  });
}

export interface Uploaded {
  hash: string;
  size: number;
  width?: number;
  height?: number;
}
