"""The packet: everything of a plan on paper in the order of the table, one document."""

from bambola.core.export.packet.build import UnknownPageError, packet_pages, packet_pdf
from bambola.core.export.packet.job import Job
from bambola.core.export.packet.kinds import KIND_BY_ID, KINDS
from bambola.core.export.packet.papers import PAPERS, Paper
