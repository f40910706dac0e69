/** The bytes of a file as base64, as the service takes them. */
export function base64Of(content: ArrayBuffer): string {
  const all = new Uint8Array(content);
  let text = "";
  // In parts: a call takes only so many arguments.
  for (let at = 0; at < all.length; at += 0x8000) text += String.fromCharCode(...all.subarray(at, at + 0x8000));
  return btoa(text);
}
