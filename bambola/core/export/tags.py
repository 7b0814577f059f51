"""Tags of a PDF: what is read aloud, as what, and in which order (ISO 32000, 14.7 and 14.8). Text is read in
the order of layout, pictures by their descriptions; drawn lines are not read."""

from __future__ import annotations

from reportlab.pdfbase.pdfdoc import (
    PDFArray,
    PDFDictionary,
    PDFName,
    PDFObjectReference,
    PDFString,
    PDFtrue,
)
from reportlab.pdfgen.canvas import Canvas

from bambola.core.frozen import frozen

UNREAD = "Artifact"


@frozen
class _Read:
    """One tagged element: its kind, its marks on the page, its description, and its box."""

    kind: str
    marks: list[int]
    told: str = ""
    box: tuple[float, ...] = ()


class CanvasTags:
    """The tags of one canvas, page by page; call :meth:`write` before it is saved."""

    def __init__(self, canvas: Canvas) -> None:
        self._canvas = canvas
        self._pages: list[tuple[str, list[_Read]]] = []
        self._read: list[_Read] = []
        self._marks = 0
        self._open = ""

    def begin(self, kind: str, *, told: str = "", box: tuple[float, ...] = ()) -> None:
        """Begin an element of ``kind`` (P, H1, Figure); ``told`` describes a picture in ``box`` on its page
        (left, bottom, right, top; pt)."""
        self.end()
        self._read.append(_Read(kind, [], told, box))
        self._open_mark()

    def go_on(self, kind: str) -> None:
        """Continue the last element if it is of this ``kind``."""
        if not self._read or self._read[-1].kind != kind:
            self.begin(kind)
        elif self._open != kind:
            self.end()
            self._open_mark()

    def _open_mark(self) -> None:
        self._open = self._read[-1].kind
        self._read[-1].marks.append(self._marks)
        self._write_code(f"/{self._open} <</MCID {self._marks}>> BDC")
        self._marks += 1

    def leave(self) -> None:
        """Begin content that is not read."""
        if self._open != UNREAD:
            self.end()
            self._write_code(f"/{UNREAD} BMC")
            self._open = UNREAD

    def end(self) -> None:
        """Close the open element, so that the canvas may save or restore its state."""
        if self._open:
            self._write_code("EMC")
        self._open = ""

    def turn(self, told: str) -> None:
        """Finish the page, described as ``told``."""
        self.end()
        self._canvas.showPage()
        page = self._canvas._doc.Pages.pages[-1]  # type: ignore[attr-defined]
        page.__NoDefault__ = [*page.__NoDefault__, "StructParents", "Tabs"]
        page.StructParents, page.Tabs = len(self._pages), PDFName("S")
        self._pages.append((told, self._read))
        self._read, self._marks = [], 0

    def write(self) -> None:
        """Write the structure tree into the document."""
        document = self._canvas._doc  # type: ignore[attr-defined]
        root, whole = PDFDictionary(), PDFDictionary()
        at, within = document.Reference(root), document.Reference(whole)
        sections, parents = [], []
        for number, (told, read) in enumerate(self._pages):
            page = document.Reference(document.Pages.pages[number])
            section = _new_element("Sect", within, T=PDFString(told))
            up = document.Reference(section)
            kids = [document.Reference(_tag_element(one, up, page)) for one in read]
            section["K"] = PDFArray(kids)
            sections.append(up)
            by_mark = [kid for kid, one in zip(kids, read, strict=True) for _ in one.marks]
            parents += [number, PDFArray(by_mark)]
        whole.dict.update(_new_element("Document", at, K=PDFArray(sections)).dict)
        root["Type"], root["K"] = PDFName("StructTreeRoot"), within
        root["ParentTree"] = document.Reference(PDFDictionary({"Nums": PDFArray(parents)}))
        root["ParentTreeNextKey"] = len(self._pages)
        self._canvas.setCatalogEntry("StructTreeRoot", root)
        self._canvas.setCatalogEntry("MarkInfo", {"Marked": PDFtrue})

    def _write_code(self, line: str) -> None:
        self._canvas._code.append(line)  # type: ignore[attr-defined]


def _tag_element(one: _Read, up: PDFObjectReference, page: PDFObjectReference) -> PDFDictionary:
    found = _new_element(one.kind, up, Pg=page, K=PDFArray(one.marks))
    if one.told:
        found["Alt"] = PDFString(one.told)
    if one.box:
        found["A"] = PDFDictionary(
            {"O": PDFName("Layout"), "BBox": PDFArray(one.box), "Placement": PDFName("Block")}
        )
    return found


def _new_element(kind: str, up: PDFObjectReference, **more: object) -> PDFDictionary:
    return PDFDictionary({"S": PDFName(kind), "P": up, **more})
