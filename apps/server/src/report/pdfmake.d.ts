declare module 'pdfmake' {
  interface Printer {
    setFonts(fonts: Record<string, Record<string, string>>): void;
    setLocalAccessPolicy(allow: (path: string) => boolean): void;
    setUrlAccessPolicy(allow: (url: string) => boolean): void;
    createPdf(definition: object): { getBuffer(): Promise<Buffer> };
  }
  const pdfmake: Printer;
  export default pdfmake;
}
