-- Reads of posts by month are the sums of what is counted by day from now on. Months that were counted apart keep the larger number.
INSERT INTO reads (post_id, month, count)
SELECT page, substr(day, 1, 4) * 12 + substr(day, 6, 2) - 1 AS of_month, SUM(pages)
FROM read_day
WHERE page > 0 AND pages > 0 AND EXISTS (SELECT 1 FROM post WHERE post.id = page)
GROUP BY page, of_month
ON CONFLICT (post_id, month) DO UPDATE SET count = MAX(count, excluded.count);
