import crypto from "node:crypto";

/**
 * Lets SNMPv3's DES be spoken: OpenSSL 3 leaves single DES out of what Node.js can use. Three-key DES with the same key three times decrypts
 * what it encrypts twice in between, so that it is single DES (FIPS 46-3 §2, keying option 3), and that is there. Nothing else asks for
 * "des-cbc", which without this throws.
 */
export function speakDes(): void {
  const isSpoken = crypto as typeof crypto & { speaksDes?: true };
  if (isSpoken.speaksDes) return;
  isSpoken.speaksDes = true;
  const { createCipheriv, createDecipheriv } = crypto;
  const tripled = (key: Uint8Array) => Buffer.concat([key, key, key]);
  crypto.createCipheriv = ((algorithm: string, key: Uint8Array, ...rest: [Uint8Array]) =>
    algorithm === "des-cbc"
      ? createCipheriv("des-ede3-cbc", tripled(key), ...rest)
      : createCipheriv(algorithm, key, ...rest)) as typeof createCipheriv;
  crypto.createDecipheriv = ((algorithm: string, key: Uint8Array, ...rest: [Uint8Array]) =>
    algorithm === "des-cbc"
      ? createDecipheriv("des-ede3-cbc", tripled(key), ...rest)
      : createDecipheriv(algorithm, key, ...rest)) as typeof createDecipheriv;
}
