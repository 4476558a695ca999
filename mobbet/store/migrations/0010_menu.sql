-- The few posts that the menu leads to: asked for by every page's plan, whatever else it shows.
CREATE INDEX placement_in_menu ON placement (blog_id, goes_out) WHERE in_menu = 1;
