export { releasedType, releasedVersions, releaseType } from './released.ts';
export { BLANK, folderNames, libraryIn, readFolder } from './folders.ts';
export { type FoundLessons, lessonsOf } from './lessons.ts';
export { RELEASED, shippedType, shippedTypes, typesStamp } from './shipped.ts';
