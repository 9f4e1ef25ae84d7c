CREATE TABLE "part" (
	"job_id" uuid NOT NULL,
	"kind" text NOT NULL,
	CONSTRAINT "part_key" PRIMARY KEY("job_id","kind"),
	CONSTRAINT "part_kind" CHECK ("part"."kind" in ('stator','second','cage-rotor','wound-rotor','armature','field-frame','magnet-rotor'))
);
--> statement-breakpoint
CREATE TABLE "unit" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"job_id" uuid NOT NULL,
	"ordinal" integer NOT NULL,
	"serial" text,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "unit_ordinal" UNIQUE("job_id","ordinal"),
	CONSTRAINT "unit_ordinal_range" CHECK ("unit"."ordinal" between 1 and 100000)
);
--> statement-breakpoint
CREATE TABLE "unit_step" (
	"unit_id" uuid NOT NULL,
	"code" text NOT NULL,
	"state" text DEFAULT 'open' NOT NULL,
	"changed_at" timestamp with time zone,
	CONSTRAINT "unit_step_key" PRIMARY KEY("unit_id","code"),
	CONSTRAINT "unit_step_state" CHECK ("unit_step"."state" in ('open','running','passed','attention','undecided','failed','waived','recheck'))
);
--> statement-breakpoint
ALTER TABLE "step_attempt" DROP CONSTRAINT "step_attempt_number";--> statement-breakpoint
ALTER TABLE "job" DROP CONSTRAINT "job_quantity";--> statement-breakpoint
ALTER TABLE "joint_sheet" DROP CONSTRAINT "joint_sheet_part";--> statement-breakpoint
ALTER TABLE "material_sheet" DROP CONSTRAINT "material_sheet_part";--> statement-breakpoint
ALTER TABLE "winding_record" DROP CONSTRAINT "winding_record_part";--> statement-breakpoint
-- what came in with each visit of before, as far as it says
INSERT INTO "part" ("job_id", "kind")
SELECT j.id, 'stator' FROM "job" j WHERE j.came <> 'rotor only'
	OR EXISTS (SELECT 1 FROM "winding_record" w WHERE w.job_id = j.id AND w.part IN ('stator','second'))
	OR EXISTS (SELECT 1 FROM "joint_sheet" w WHERE w.job_id = j.id AND w.part IN ('stator','second'))
	OR EXISTS (SELECT 1 FROM "material_sheet" w WHERE w.job_id = j.id AND w.part IN ('stator','second'));
--> statement-breakpoint
INSERT INTO "part" ("job_id", "kind")
SELECT j.id, CASE WHEN j.nameplate ? 'rotorVoltageV' OR j.nameplate ? 'rotorCurrentA' OR x.wound THEN 'wound-rotor' ELSE 'cage-rotor' END
FROM "job" j CROSS JOIN LATERAL (SELECT
	EXISTS (SELECT 1 FROM "winding_record" w WHERE w.job_id = j.id AND w.part = 'rotor')
	OR EXISTS (SELECT 1 FROM "joint_sheet" w WHERE w.job_id = j.id AND w.part = 'rotor')
	OR EXISTS (SELECT 1 FROM "material_sheet" w WHERE w.job_id = j.id AND w.part = 'rotor') AS wound) x
WHERE j.came <> 'stator only' OR x.wound OR EXISTS (SELECT 1 FROM "balance_run" b WHERE b.job_id = j.id);
--> statement-breakpoint
INSERT INTO "part" ("job_id", "kind")
SELECT j.id, 'second' FROM "job" j WHERE
	EXISTS (SELECT 1 FROM "winding_record" w WHERE w.job_id = j.id AND w.part = 'second')
	OR EXISTS (SELECT 1 FROM "joint_sheet" w WHERE w.job_id = j.id AND w.part = 'second')
	OR EXISTS (SELECT 1 FROM "material_sheet" w WHERE w.job_id = j.id AND w.part = 'second');
--> statement-breakpoint
-- a rotor's winding is named by the kind of its rotor; what was recorded is not changed by that
DO $$ DECLARE name text; BEGIN
	FOREACH name IN ARRAY ARRAY['winding_record','joint_sheet','material_sheet','stock_entry'] LOOP
		EXECUTE format('ALTER TABLE %I DISABLE TRIGGER USER', name);
		EXECUTE format('UPDATE %I SET part = ''wound-rotor'' WHERE part = ''rotor''', name);
		EXECUTE format('ALTER TABLE %I ENABLE TRIGGER USER', name);
	END LOOP;
	ALTER TABLE measurement DISABLE TRIGGER USER;
	UPDATE measurement m SET part = p.kind FROM part p WHERE m.part = 'rotor' AND p.job_id = m.job_id AND p.kind IN ('cage-rotor','wound-rotor');
	ALTER TABLE measurement ENABLE TRIGGER USER;
END $$;
--> statement-breakpoint
ALTER TABLE "balance_run" DROP CONSTRAINT "balance_run_job";
--> statement-breakpoint
ALTER TABLE "cure_run" DROP CONSTRAINT "cure_run_job";
--> statement-breakpoint
ALTER TABLE "joint_sheet" DROP CONSTRAINT "joint_sheet_job";
--> statement-breakpoint
ALTER TABLE "material_sheet" DROP CONSTRAINT "material_sheet_job";
--> statement-breakpoint
ALTER TABLE "test_run" DROP CONSTRAINT "test_run_job";
--> statement-breakpoint
ALTER TABLE "winding_record" DROP CONSTRAINT "winding_record_job";
--> statement-breakpoint
ALTER TABLE "balance_run" ADD COLUMN "part" text;--> statement-breakpoint
ALTER TABLE "balance_run" DISABLE TRIGGER USER;--> statement-breakpoint
UPDATE "balance_run" r SET part = (SELECT p.kind FROM "part" p WHERE p.job_id = r.job_id ORDER BY p.kind IN ('cage-rotor','wound-rotor') DESC LIMIT 1);--> statement-breakpoint
ALTER TABLE "balance_run" ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "balance_run" ALTER COLUMN "part" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "balance_run" ADD COLUMN "unit_id" uuid;--> statement-breakpoint
ALTER TABLE "cure_run" ADD COLUMN "part" text;--> statement-breakpoint
ALTER TABLE "cure_run" DISABLE TRIGGER USER;--> statement-breakpoint
UPDATE "cure_run" r SET part = (SELECT p.kind FROM "part" p WHERE p.job_id = r.job_id ORDER BY p.kind = 'stator' DESC LIMIT 1);--> statement-breakpoint
ALTER TABLE "cure_run" ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "cure_run" ALTER COLUMN "part" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "measurement" ADD COLUMN "unit_id" uuid;--> statement-breakpoint
ALTER TABLE "step_attempt" ADD COLUMN "unit_id" uuid;--> statement-breakpoint
ALTER TABLE "test_run" ADD COLUMN "part" text;--> statement-breakpoint
ALTER TABLE "test_run" DISABLE TRIGGER USER;--> statement-breakpoint
UPDATE "test_run" r SET part = (SELECT p.kind FROM "part" p WHERE p.job_id = r.job_id ORDER BY p.kind = 'stator' DESC LIMIT 1);--> statement-breakpoint
ALTER TABLE "test_run" ENABLE TRIGGER USER;--> statement-breakpoint
ALTER TABLE "test_run" ALTER COLUMN "part" SET NOT NULL;--> statement-breakpoint
ALTER TABLE "test_run" ADD COLUMN "unit_id" uuid;--> statement-breakpoint
ALTER TABLE "trace" ADD COLUMN "unit_id" uuid;--> statement-breakpoint
ALTER TABLE "part" ADD CONSTRAINT "part_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "unit" ADD CONSTRAINT "unit_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "unit_step" ADD CONSTRAINT "unit_step_unit" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE UNIQUE INDEX "unit_serial" ON "unit" USING btree ("job_id",lower("serial"));--> statement-breakpoint
ALTER TABLE "balance_run" ADD CONSTRAINT "balance_run_part_of" FOREIGN KEY ("job_id","part") REFERENCES "public"."part"("job_id","kind") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "balance_run" ADD CONSTRAINT "balance_run_unit" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "cure_run" ADD CONSTRAINT "cure_run_part_of" FOREIGN KEY ("job_id","part") REFERENCES "public"."part"("job_id","kind") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "joint_sheet" ADD CONSTRAINT "joint_sheet_part_of" FOREIGN KEY ("job_id","part") REFERENCES "public"."part"("job_id","kind") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "material_sheet" ADD CONSTRAINT "material_sheet_part_of" FOREIGN KEY ("job_id","part") REFERENCES "public"."part"("job_id","kind") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "measurement" ADD CONSTRAINT "measurement_unit" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_attempt" ADD CONSTRAINT "step_attempt_unit" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_run" ADD CONSTRAINT "test_run_part_of" FOREIGN KEY ("job_id","part") REFERENCES "public"."part"("job_id","kind") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "test_run" ADD CONSTRAINT "test_run_unit" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "trace" ADD CONSTRAINT "trace_unit" FOREIGN KEY ("unit_id") REFERENCES "public"."unit"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "winding_record" ADD CONSTRAINT "winding_record_part_of" FOREIGN KEY ("job_id","part") REFERENCES "public"."part"("job_id","kind") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "step_attempt" ADD CONSTRAINT "step_attempt_number" UNIQUE NULLS NOT DISTINCT("job_id","code","unit_id","number");--> statement-breakpoint
ALTER TABLE "job" ADD CONSTRAINT "job_quantity" CHECK ("job"."quantity" between 1 and 100000);
--> statement-breakpoint
CREATE TRIGGER unit_is_not_deleted BEFORE DELETE OR TRUNCATE ON unit FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER unit_is_kept BEFORE UPDATE ON unit FOR EACH ROW EXECUTE FUNCTION fill_only_empty();
--> statement-breakpoint
-- drafts of a rotor's sheet go on under its new name
UPDATE draft SET key = regexp_replace(key, ':rotor$', ':wound-rotor') WHERE key LIKE '%:rotor'
	AND NOT EXISTS (SELECT 1 FROM draft d WHERE d.person_id = draft.person_id AND d.key = regexp_replace(draft.key, ':rotor$', ':wound-rotor'));
