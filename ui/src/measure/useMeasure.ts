import { useQuery } from '@tanstack/react-query';
import { api, ask, type PhotoMarks, Refusal } from '../api/client';

/** The table of stock as the workshop sees it. */
export function useStock() {
  return useQuery({ queryKey: ['stock'], queryFn: () => ask(api.GET('/api/stock')) });
}

/** What the marks on a photograph measure, asked anew as they move. */
export function usePhotoAnswer(marks: PhotoMarks | undefined) {
  return useQuery({
    queryKey: ['photo', marks],
    enabled: marks !== undefined,
    retry: false,
    placeholderData: (before) => before,
    queryFn: () => ask(api.POST('/api/calc/photo', { body: marks as PhotoMarks })),
  });
}

/** A part while it is measured: asked again until its walls are known. */
export function usePart(build: string, part: string, revision: number) {
  return useQuery({
    queryKey: ['part', build, part, revision],
    queryFn: () => ask(api.GET('/api/builds/{id}/parts/{part}', { params: { path: { id: build, part } } })),
    retry: false,
    placeholderData: (before) => before,
    refetchInterval: (q) => (['done', 'failed'].includes(q.state.data?.stage ?? 'done') ? false : 400),
  });
}

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
