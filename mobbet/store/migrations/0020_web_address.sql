-- Where somebody stands on the web, which search engines are told with their posts; '' for nowhere.
ALTER TABLE person ADD COLUMN web_address TEXT NOT NULL DEFAULT '';
