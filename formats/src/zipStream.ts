import { Zip, ZipPassThrough } from 'fflate';

/** An archive that is made while its files are: they are put in as they are, since motion hardly packs. */
export class ZipStream {
  private readonly zip: Zip;
  private file: ZipPassThrough | null = null;

  /** @param onPart gets the archive in parts that follow each other */
  constructor(onPart: (part: Uint8Array) => void) {
    this.zip = new Zip((error, part) => {
      if (error) throw error;
      onPart(part);
    });
  }

  /** Begins the next file. */
  begin(name: string): void {
    this.file = new ZipPassThrough(name);
    this.zip.add(this.file);
  }

  push(part: Uint8Array): void {
    this.file?.push(part);
  }

  /** Ends the file that was begun. */
  end(): void {
    this.file?.push(new Uint8Array(0), true);
    this.file = null;
  }

  /** Ends the archive; its last part is given before this returns. */
  finish(): void {
    this.zip.end();
  }
}
