-- What was measured or agreed stands: rows are not deleted, an update fills only what was empty, sheets only rise in version.
CREATE FUNCTION fill_only_empty() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
  was jsonb := to_jsonb(OLD);
  becomes jsonb := to_jsonb(NEW);
  field text;
BEGIN
  FOR field IN SELECT jsonb_object_keys(was) LOOP
    IF was -> field IS DISTINCT FROM becomes -> field AND was -> field NOT IN ('null', '{}', '[]', '""') THEN
      RAISE EXCEPTION '% of % is kept as written', field, TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
    END IF;
  END LOOP;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE FUNCTION version_rises() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.version <= OLD.version THEN
    RAISE EXCEPTION 'a change of % needs a higher version', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE FUNCTION version_does_not_fall() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF NEW.version < OLD.version THEN
    RAISE EXCEPTION 'the version of % does not fall', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
CREATE FUNCTION closed_is_kept() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
  IF OLD.closed_at IS NOT NULL THEN
    RAISE EXCEPTION 'job % left the house and is kept as it is', OLD.number USING ERRCODE = 'restrict_violation';
  END IF;
  RETURN NEW;
END $$;
--> statement-breakpoint
DROP TRIGGER report_is_kept ON report;
--> statement-breakpoint
DO $$
DECLARE
  name text;
BEGIN
  FOREACH name IN ARRAY ARRAY['customer','motor','job','job_counter','winding_record','archive_record','joint_sheet','material_sheet','stock_lot','route_step','step_attempt','attachment','report','person','shop'] LOOP
    EXECUTE format('CREATE TRIGGER %I BEFORE DELETE OR TRUNCATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()', name || '_is_not_deleted', name);
  END LOOP;
  FOREACH name IN ARRAY ARRAY['winding_record','archive_record','attachment'] LOOP
    EXECUTE format('CREATE TRIGGER %I BEFORE UPDATE ON %I FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()', name || '_is_kept', name);
  END LOOP;
  FOREACH name IN ARRAY ARRAY['step_attempt','report'] LOOP
    EXECUTE format('CREATE TRIGGER %I BEFORE UPDATE ON %I FOR EACH ROW EXECUTE FUNCTION fill_only_empty()', name || '_is_kept', name);
  END LOOP;
  FOREACH name IN ARRAY ARRAY['joint_sheet','material_sheet','job','stock_lot'] LOOP
    EXECUTE format('CREATE TRIGGER %I BEFORE UPDATE ON %I FOR EACH ROW EXECUTE FUNCTION version_rises()', name || '_rises', name);
  END LOOP;
  FOREACH name IN ARRAY ARRAY['person','shop'] LOOP
    EXECUTE format('CREATE TRIGGER %I BEFORE UPDATE ON %I FOR EACH ROW EXECUTE FUNCTION version_does_not_fall()', name || '_rises', name);
  END LOOP;
END $$;
--> statement-breakpoint
CREATE TRIGGER job_closed_is_kept BEFORE UPDATE ON job FOR EACH ROW EXECUTE FUNCTION closed_is_kept();
