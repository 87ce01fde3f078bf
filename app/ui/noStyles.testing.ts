/** Stands for style sheets where tests run without a browser. */
export default {};
