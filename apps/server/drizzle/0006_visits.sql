-- Customer, title and nameplate belong to the visit; the motor only ties visits together.
DROP INDEX "motor_customer_index";--> statement-breakpoint
ALTER TABLE "report" ALTER COLUMN "content" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "report" ALTER COLUMN "sha256" DROP NOT NULL;--> statement-breakpoint
ALTER TABLE "cure_run" ADD COLUMN "rows" integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE "cure_run" ADD COLUMN "shown" jsonb;--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "customer_id" uuid;--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "nameplate_typed" jsonb;--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "nameplate" jsonb;--> statement-breakpoint
ALTER TABLE "job" ADD COLUMN "read_with" jsonb;--> statement-breakpoint
ALTER TABLE "report" ADD COLUMN "source" jsonb;--> statement-breakpoint
UPDATE "job" j SET customer_id = m.customer_id, nameplate_typed = m.nameplate_typed, nameplate = m.nameplate, read_with = m.read_with
FROM "motor" m WHERE m.id = j.motor_id;--> statement-breakpoint
-- two intakes at once may have made two motors of one serial number: their visits come together on one of them
WITH kept AS (
  SELECT id, first_value(id) OVER (PARTITION BY customer_id, lower(serial) ORDER BY id) AS keeper FROM "motor" WHERE serial IS NOT NULL
)
UPDATE "job" j SET motor_id = kept.keeper FROM kept WHERE kept.id = j.motor_id AND kept.keeper <> kept.id;--> statement-breakpoint
DELETE FROM "motor" m WHERE serial IS NOT NULL AND NOT EXISTS (SELECT 1 FROM "job" j WHERE j.motor_id = m.id)
  AND EXISTS (SELECT 1 FROM "motor" o WHERE o.customer_id = m.customer_id AND lower(o.serial) = lower(m.serial) AND o.id <> m.id);--> statement-breakpoint
ALTER TABLE "job" ALTER COLUMN "customer_id" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "job" ALTER COLUMN "nameplate_typed" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "job" ALTER COLUMN "nameplate" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "job" ALTER COLUMN "read_with" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_customer" FOREIGN KEY ("customer_id") REFERENCES "public"."customer"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "job_customer_index" ON "job" USING btree ("customer_id");--> statement-breakpoint
CREATE UNIQUE INDEX "motor_customer_serial" ON "motor" USING btree ("customer_id",lower("serial"));--> statement-breakpoint
ALTER TABLE "motor" DROP COLUMN "nameplate_typed";--> statement-breakpoint
ALTER TABLE "motor" DROP COLUMN "nameplate";--> statement-breakpoint
ALTER TABLE "motor" DROP COLUMN "read_with";
