import type { FastifyReply } from 'fastify';
import Papa from 'papaparse';

/** A table as a CSV file to keep. */
export function sendCsv(reply: FastifyReply, name: string, table: (string | number)[][]): void {
  void reply
    .header('Content-Type', 'text/csv; charset=utf-8')
    .header('Content-Disposition', `attachment; filename="${name}"`)
    .send(`${Papa.unparse(table, { escapeFormulae: true })}\r\n`);
}
