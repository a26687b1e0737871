import type { TypeFile } from '../aircraft/index.ts';
import { auditConditions } from './conditions.ts';
import type { Finding, Report } from './finding.ts';
import { auditLimits } from './limits.ts';
import { auditNames } from './names.ts';
import { auditWords } from './words.ts';

/** Everything that can be found wrong with a type without flying it. Milliseconds. */
export function auditType(type: TypeFile): Finding[] {
  return collect((report) => {
    auditConditions(type, report);
    auditLimits(type, report);
    auditWords(type, report);
    auditNames(type, report);
  });
}

/** What a part of an audit reports, as a list. */
export function collect(work: (report: Report) => void): Finding[] {
  const findings: Finding[] = [];
  work((path, message, remedy) => findings.push({ path, message, remedy }));
  return findings;
}
