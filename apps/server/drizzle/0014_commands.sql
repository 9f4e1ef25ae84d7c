CREATE TABLE "instrument_command" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"instrument_id" uuid NOT NULL,
	"command" text NOT NULL,
	"value" double precision,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	"expires_at" timestamp with time zone NOT NULL,
	"answered_at" timestamp with time zone,
	"answer" text,
	"said" text DEFAULT '' NOT NULL,
	CONSTRAINT "instrument_command_answer" CHECK ("instrument_command"."answer" is null or "instrument_command"."answer" in ('done','refused'))
);
--> statement-breakpoint
ALTER TABLE "instrument" ADD COLUMN "state" text;--> statement-breakpoint
ALTER TABLE "instrument" ADD COLUMN "heard_at" timestamp with time zone;--> statement-breakpoint
ALTER TABLE "instrument_command" ADD CONSTRAINT "instrument_command_instrument" FOREIGN KEY ("instrument_id") REFERENCES "public"."instrument"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "instrument_command_of" ON "instrument_command" USING btree ("instrument_id","id" DESC NULLS LAST);--> statement-breakpoint
CREATE TRIGGER instrument_command_is_not_deleted BEFORE DELETE OR TRUNCATE ON instrument_command FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
--> statement-breakpoint
CREATE TRIGGER instrument_command_is_kept BEFORE UPDATE ON instrument_command FOR EACH ROW EXECUTE FUNCTION fill_only_empty();
