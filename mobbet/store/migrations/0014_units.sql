-- Established names: what the next publication must look at, and what is cached of each post.
ALTER TABLE unsettled RENAME TO stale_post;
ALTER TABLE unsettled_list RENAME TO stale_fact;
ALTER TABLE stale_fact RENAME COLUMN list TO fact;
ALTER TABLE worked_out RENAME TO cached;

-- How many times each blog changed: open windows compare, and say when they show an earlier state.
CREATE TABLE blog_event (
    blog_id INTEGER PRIMARY KEY REFERENCES blog (id) ON DELETE CASCADE,
    number INTEGER NOT NULL
) STRICT;

ALTER TABLE blog RENAME COLUMN gravities TO severities;
