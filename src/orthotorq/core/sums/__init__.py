"""Quick sums: one table of questions with their fields, asked alike by the command line and by the
screen."""

from .fields import Answer, Field, Sum, read_values
from .table import SUMS, answer

__all__ = ["SUMS", "Answer", "Field", "Sum", "answer", "read_values"]
