import { expect, it } from 'vitest';
import { foreignParts } from './foreign-parts';

it('names the frames and the origins of files of others, and not what script asks for by itself', () => {
  const loadedFiles = [
    'scripthttp://localhost:4781/desk.js',
    'imghttps://maps.skerry/tile/1.png?key=1',
    'csshttps://maps.skerry/tile/2.png',
    'fetchhttps://tides.skerry/api',
    'linkhttps://fonts.skerry/face.woff2',
    'imgblob:http://localhost:4781/1',
  ];
  expect(foreignParts('http://localhost:4781/board', { loadedFrames: ['frame “Pay”'], loadedFiles })).toEqual(
    {
      frames: ['frame “Pay”'],
      origins: ['https://maps.skerry', 'https://fonts.skerry'],
    },
  );
});
