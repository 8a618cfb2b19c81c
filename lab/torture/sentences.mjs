/** Words of programs that no refusal may use: people do not. */
const JARGON =
  /\b(SQLITE\w*|undefined|null|NaN|\[object|TypeError|RangeError|SyntaxError|at \w+ \(|uuid|enum|regex\w*|boolean|integer|payload|stderr|stdin|stdout|errno|exit code|ffmpeg|ffprobe|libav\w*|avcodec|pipe:|codec_\w+|stream_\w+|zod|typeorm|nest|multer|Validation failed|is expected|property .* should not exist|invalid_\w+|Internal|Bad Request|Not Found|Forbidden|Unprocessable)\b|[{}<>]|\/(tmp|home|root|work|usr|var)\//i;

/** Names of the system's errors. */
const ERRNO = /\bE[A-Z]{4,}\b|0x[0-9a-f]{6,}|\[\w+ @|\b[0-9a-f]{32}\b|Invalid argument/;

/**
 * What is wrong with a refusal, or null: it has to be a sentence, of at most 600 characters, in words that people use.
 * @param {unknown} message
 */
export function wrongWith(message) {
  if (typeof message !== 'string' || message.trim() === '') return 'it says nothing';
  if (message.length > 600) return `it is ${message.length} characters long`;
  const word = (JARGON.exec(message) ?? ERRNO.exec(message))?.[0];
  if (word) return `it says "${word}"`;
  if (!/^["“'(\p{Lu}\d]/u.test(message)) return 'it does not begin like a sentence';
  if (!/[.?!)"”]$/.test(message.trim())) return 'it does not end like a sentence';
  return null;
}
