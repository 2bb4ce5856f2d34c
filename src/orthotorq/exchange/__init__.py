"""Sheets, records and drawings out of the core's documents: HTML to PDF, SVG."""
