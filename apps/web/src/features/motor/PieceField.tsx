import type { JobDetail } from '@norther/contracts';
import { PlainField } from '../../ui/Field.tsx';

/** Which piece of a job of many a reading is of; nothing where the job is of one. */
export function PieceField({
  job,
  piece,
  onPiece,
}: {
  job: JobDetail;
  piece: string;
  onPiece: (piece: string) => void;
}) {
  if (job.quantity === 1) return null;
  return (
    <PlainField
      label={`Piece, of ${job.quantity} (blank: the job as a whole)`}
      type="number"
      min={1}
      max={job.quantity}
      value={piece}
      onChange={(e) => onPiece(e.target.value)}
    />
  );
}
