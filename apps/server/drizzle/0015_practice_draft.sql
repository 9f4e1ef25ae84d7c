-- the score of the practice is a draft as others are
UPDATE "draft" SET "body" = jsonb_build_object(
  'typed', jsonb_build_object('right', coalesce("body"->>'right', '0'), 'tried', "body"->>'tried'), 'base', '[]')
WHERE "key" = 'practice' AND NOT "body" ? 'typed' AND "body" ? 'tried';
