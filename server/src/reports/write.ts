import type { TypeFile } from '@rouse/core/aircraft';
import { bookletReport } from './booklet.ts';
import type { Report } from './block.ts';
import { type BriefForReport, briefReport } from './brief.ts';
import { type ExceedanceForReport, exceedanceReport } from './exceedance.ts';
import { type MonthForReport, monthReport } from './month.ts';
import { drawReport } from './paper.ts';
import { type RunForReport, runReport } from './run.ts';
import { type TrainingForReport, trainingReport } from './training.ts';

/** A report that somebody asks for, with everything that stands in it. */
export type ReportAsked =
  | { of: 'run'; run: RunForReport }
  | { of: 'exceedance'; exceedance: ExceedanceForReport }
  | { of: 'month'; month: MonthForReport }
  | { of: 'brief'; brief: BriefForReport }
  | { of: 'training'; training: TrainingForReport }
  | { of: 'booklet'; type: TypeFile; digest: string };

/** A PDF of what is asked for. */
export const writeReport = (asked: ReportAsked): Promise<Uint8Array> => drawReport(reportOf(asked));

function reportOf(asked: ReportAsked): Report {
  switch (asked.of) {
    case 'run':
      return runReport(asked.run);
    case 'exceedance':
      return exceedanceReport(asked.exceedance);
    case 'month':
      return monthReport(asked.month);
    case 'brief':
      return briefReport(asked.brief);
    case 'training':
      return trainingReport(asked.training);
    case 'booklet':
      return bookletReport(asked.type, asked.digest);
  }
}
