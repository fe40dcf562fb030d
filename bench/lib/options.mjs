/** What a benchmark was asked for on the command line, and how it says what it measured. */
const options = process.argv.slice(2);

/** The value behind an option, or another where it is not given. */
export const valueOf = (name, otherwise) =>
  options.includes(name) ? options[options.indexOf(name) + 1] : otherwise;

/** Whether figures are wanted as JSON, and nothing else. */
export const asJson = options.includes('--json');

export const say = (text) => (asJson ? undefined : console.log(text));
