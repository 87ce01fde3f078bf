-- New words go into the index at once: a list of those that wait would be read by every search, and nothing empties it here.
ALTER INDEX "case_file_search" SET (fastupdate = off);
--> statement-breakpoint
SELECT gin_clean_pending_list('case_file_search');
