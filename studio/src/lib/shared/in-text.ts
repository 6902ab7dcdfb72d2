/** A file as an address that holds it. */
export const inText = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(reader.result as string);
    reader.onerror = () => reject(new Error('A picture cannot be read.'));
    reader.readAsDataURL(blob);
  });
