CREATE TABLE "material_sheet" (
	"job_id" uuid NOT NULL,
	"part" text NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	"typed" jsonb NOT NULL,
	"lists" jsonb,
	CONSTRAINT "material_sheet_key" PRIMARY KEY("job_id","part"),
	CONSTRAINT "material_sheet_part" CHECK ("material_sheet"."part" in ('stator','second','rotor'))
);
--> statement-breakpoint
CREATE TABLE "stock_entry" (
	"id" bigserial PRIMARY KEY NOT NULL,
	"lot_id" uuid NOT NULL,
	"kind" text NOT NULL,
	"quantity" double precision NOT NULL,
	"job_id" uuid,
	"part" text,
	"code" text,
	"reason" text,
	"person_name" text NOT NULL,
	"at" timestamp with time zone DEFAULT now() NOT NULL,
	CONSTRAINT "stock_entry_kind" CHECK ("stock_entry"."kind" in ('received','counted','reserved','freed','used','returned')),
	CONSTRAINT "stock_entry_quantity" CHECK ("stock_entry"."kind" = 'counted' or "stock_entry"."quantity" > 0)
);
--> statement-breakpoint
CREATE TABLE "stock_lot" (
	"id" uuid PRIMARY KEY DEFAULT gen_random_uuid() NOT NULL,
	"lot" text NOT NULL,
	"what" jsonb NOT NULL,
	"unit" text NOT NULL,
	"price_per_unit" double precision,
	"spools" integer,
	"expires" date,
	"quarantined" boolean DEFAULT false NOT NULL,
	"note" text DEFAULT '' NOT NULL,
	"received_at" timestamp with time zone DEFAULT now() NOT NULL,
	"version" integer DEFAULT 1 NOT NULL,
	CONSTRAINT "stock_lot_unique" UNIQUE("lot"),
	CONSTRAINT "stock_lot_unit" CHECK ("stock_lot"."unit" in ('kg','m','sheets','pieces')),
	CONSTRAINT "stock_lot_price" CHECK ("stock_lot"."price_per_unit" is null or "stock_lot"."price_per_unit" >= 0)
);
--> statement-breakpoint
ALTER TABLE "winding_record" ADD COLUMN "redesign" jsonb;--> statement-breakpoint
ALTER TABLE "material_sheet" ADD CONSTRAINT "material_sheet_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stock_entry" ADD CONSTRAINT "stock_entry_lot" FOREIGN KEY ("lot_id") REFERENCES "public"."stock_lot"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE "stock_entry" ADD CONSTRAINT "stock_entry_job" FOREIGN KEY ("job_id") REFERENCES "public"."job"("id") ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX "stock_entry_lot_index" ON "stock_entry" USING btree ("lot_id");--> statement-breakpoint
CREATE INDEX "stock_entry_job_index" ON "stock_entry" USING btree ("job_id");