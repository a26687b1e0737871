export { compileType, type Compiled } from './compile-type.ts';
export {
  type Expectation,
  parseCondition,
  parseExpectation,
  printCondition,
  printExpectation,
  type Vocabulary,
} from './condition-text.ts';
export { cellAt, cellsOf, removeRow, setCells, tableOf, type WrittenTable } from './edit-csv.ts';
export { type WrittenItem, writtenItems } from './written-items.ts';
export { YamlTexts } from './yaml-file.ts';
export {
  copyElement,
  insertElement,
  moveElement,
  removeAt,
  renameMember,
  setMember,
  setNames,
  setText,
  type YamlPath,
} from './edit-yaml.ts';
export { headRemark, type WrittenNode, writtenTree } from './written-tree.ts';
export { LIBRARY, type TypeFolder } from './folder.ts';
export { type Place, type Problem, sayProblem } from './problem.ts';
export type { Library } from './read-folder.ts';
export { parseAction, parseWhen, printAction, printWhen } from './phrase-text.ts';
export { authoredJsonSchema, WRITTEN } from './written-schemas.ts';
