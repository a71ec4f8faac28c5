/** Sends a file as it is, telling how much has gone; gives the id under which the server keeps it. */
export function upload(file: File, onShare: (share: number) => void, signal: AbortSignal): Promise<string> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", "/uploads");
    request.upload.onprogress = (event) => onShare(event.loaded / Math.max(1, event.total));
    request.onload = () =>
      request.status === 200
        ? resolve((JSON.parse(request.responseText) as { uploadId: string }).uploadId)
        : reject(new Error(request.responseText || `the server answered ${request.status}`));
    request.onerror = () => reject(new Error("the file did not arrive"));
    request.onabort = () => reject(new Error("stopped"));
    signal.addEventListener("abort", () => request.abort());
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.send(file);
  });
}
