-- times_min, channels, rows and shown of cure_run go once their samples stand in chunks: trace/backfill.ts does both, right after the
-- migrations, and makes trace_id required.
SELECT 1;
