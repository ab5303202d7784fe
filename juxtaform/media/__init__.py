"""Pictures as files: decoding safely, the content-addressed store, thumbnails."""
