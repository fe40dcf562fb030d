import { version } from '../../../../package.json';

/** Version of the product (Semantic Versioning); that of the recording format is another. */
export const VERSION: string = version;
