import type { Page } from 'puppeteer-core';

/** The share of pixels, 0 to 1, that differ visibly between two PNG pictures of one size. */
export const shareOfOtherPixels = (page: Page, a: Uint8Array, b: Uint8Array): Promise<number> =>
  page.evaluate(
    async (...pictures) => {
      const [one, other] = await Promise.all(
        pictures.map(async (base64) => {
          const image = new Image();
          image.src = `data:image/png;base64,${base64}`;
          await image.decode();
          const context = new OffscreenCanvas(image.width, image.height).getContext('2d')!;
          context.drawImage(image, 0, 0);
          return context.getImageData(0, 0, image.width, image.height).data;
        }),
      );
      let differing = 0;
      for (let i = 0; i < one!.length; i += 4)
        if ([0, 1, 2].some((k) => Math.abs(one![i + k]! - other![i + k]!) > 16)) differing++;
      return differing / (one!.length / 4);
    },
    Buffer.from(a).toString('base64'),
    Buffer.from(b).toString('base64'),
  );
