declare module 'pdfmake/fonts/Roboto.js' {
  const fonts: Record<'Roboto', Record<'normal' | 'bold' | 'italics' | 'bolditalics', string>>;
  export default fonts;
}
