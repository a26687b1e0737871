import type { Tx } from './pool.ts';

export interface SiteReportRow {
  site: string;
  report: string;
  by: string;
  at: Date;
}

/** The last report of every site that has one. */
export async function listSiteReports(tx: Tx): Promise<SiteReportRow[]> {
  const { rows } = await tx.query<SiteReportRow>(
    'SELECT DISTINCT ON (site) site, report, by, at FROM site_report WHERE operator_id = $1 ORDER BY site, at DESC',
    [tx.operatorId],
  );
  return rows;
}

export async function insertSiteReport(tx: Tx, r: SiteReportRow): Promise<void> {
  await tx.query('INSERT INTO site_report (operator_id, site, at, report, by) VALUES ($1, $2, $3, $4, $5)', [
    tx.operatorId,
    r.site,
    r.at,
    r.report,
    r.by,
  ]);
}
