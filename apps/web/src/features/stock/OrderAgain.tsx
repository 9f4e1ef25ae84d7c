import { formatNumber } from '@norther/core';
import { useOrderAgainQuery } from '../../app/api/stock.ts';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';

/** What is to be ordered again, from its use of the last ninety days and the shop's delivery times. */
export function OrderAgain() {
  const { data, error, isLoading } = useOrderAgainQuery();
  if (isLoading) return <Quiet>Adding up the use …</Quiet>;
  if (data?.length === 0) return <Quiet>Nothing was used in the last ninety days; there is no use to go by.</Quiet>;
  return (
    <>
      <ProblemNote error={error} />
      <p className="text-small text-soft mb-1">
        By the use of the last ninety days; delivery time and its spread are the shop’s limits.
      </p>
      <table className="w-full max-w-3xl tabular-nums">
        <thead>
          <tr className="text-left border-b-2 border-edge">
            <th>Material</th>
            <th className="text-right">Free</th>
            <th className="text-right">A day</th>
            <th className="text-right">Order at</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {(data ?? []).map((o) => (
            <tr key={o.what + o.unit} className="border-b border-line">
              <td className="py-1">{o.what}</td>
              <td className="text-right">
                {formatNumber(o.free, 4)} {o.unit}
              </td>
              <td className="text-right">{formatNumber(o.perDay, 3)}</td>
              <td className="text-right">{formatNumber(o.point, 3)}</td>
              <td className="pl-3 font-semibold text-attention">{o.order ? 'order now' : ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
