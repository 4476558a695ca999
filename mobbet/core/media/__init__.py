"""The rules of pictures, sound and video: kinds of files, cuts, places, rows, captions."""
