"""Posts as documents and books of open formats: HTML, Markdown, .docx, .odt and .epub."""
