import QRCode from 'qrcode';

/** Enough is repeated in the picture that a scratch or a fold does not spoil it. */
const options = { errorCorrectionLevel: 'Q', margin: 2 } as const;

/** A QR picture of an address, for print (SVG) or for screens (PNG, 1,024 pixels wide). */
export const qrSvg = (url: string): Promise<string> => QRCode.toString(url, { ...options, type: 'svg' });
export const qrPng = (url: string): Promise<Buffer> => QRCode.toBuffer(url, { ...options, width: 1024 });
