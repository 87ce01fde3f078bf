/** Said wherever nobody compared the content with a source. */
export const notChecked = 'Nobody has checked it against a source.';
