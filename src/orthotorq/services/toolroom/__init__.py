"""The tool room: tools by serial, their checks, and what each has touched."""
