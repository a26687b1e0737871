import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';

const IV_BYTES = 12;
const TAG_BYTES = 16;

/** Seals what the database may keep and not read: AES-256-GCM with the key of this server. */
export class SecretBox {
  private readonly key: Buffer;

  /** @param key 32 bytes @throws Error for another length */
  constructor(key: Buffer) {
    if (key.length !== 32) throw new Error(`the key of the server has ${key.length} bytes, not 32`);
    this.key = key;
  }

  seal(words: string): Buffer {
    const iv = randomBytes(IV_BYTES);
    const cipher = createCipheriv('aes-256-gcm', this.key, iv);
    const sealed = Buffer.concat([cipher.update(words, 'utf8'), cipher.final()]);
    return Buffer.concat([iv, cipher.getAuthTag(), sealed]);
  }

  /** @throws Error when it was sealed with another key, or changed */
  open(sealed: Buffer): string {
    const decipher = createDecipheriv('aes-256-gcm', this.key, sealed.subarray(0, IV_BYTES));
    decipher.setAuthTag(sealed.subarray(IV_BYTES, IV_BYTES + TAG_BYTES));
    return decipher.update(sealed.subarray(IV_BYTES + TAG_BYTES), undefined, 'utf8') + decipher.final('utf8');
  }
}
