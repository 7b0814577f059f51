"""Every string that a person reads is marked for translation, and the core holds none (``make check``).

What a person reads is told from ids and keys by its look: a capital at its head, or several words. The kinds
that files name by several words are listed, as are the calls that show nothing.
"""

from __future__ import annotations

import ast
import re
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import TypeGuard

ROOT = Path(__file__).parent.parent / "bambola"
MARKS = {"tr", "trn", "N_", "NN_", "C_"}
SHOW_NOTHING = {
    "fact", "Fact", "kind", "icon", "getLogger", "setObjectName", "setProperty", "QKeySequence", "cast",
    "Literal", "TypeVar", "TypeAliasType", "startswith", "_new_element", "PDFName", "PDFDictionary",
    "setCatalogEntry", "endswith", "removeprefix", "removesuffix", "split",
    "compile", "match", "fullmatch", "search", "sub", "findall", "execute", "strptime", "add", "setStyle",
    "setStyleSheet", "ClassVar", "setShortcut", "add_subparsers", "Field", "_append_to_log", "_draw_text",
    "encode", "toString",
}  # fmt: skip
NAMES = {
    "The simulated caliper", "The simulated scale",
    "soft aluminium", "soft copper", "half-hard brass", "soft steel", "over the surface", "ear tips",
    "loop to foot", "in place", "on wire", "near wire", "on the body", "cut wire", "bend and bind",
    "fur row", "fur rows", "each part first", "fur on parts", "eyes first", "on the pad", "as they meet",
    "by load", "by opening", "back to back", "middle out", "pair first", "as drawn", "one mass",
    "one at a time", "to come", "woven cloth", "pulled over", "felt sheet", "cut out", "net skirt",
    "pushed in",
    "cloth scarf", "halved hat", "stitched mouth", "soft centre", "felt on", "take off", "lift off",
    "hold still", "back left", "back right", "front left", "front right", "maybe turn", "one ", "Lang",
    "DisplayDocTitle", "Python", "Alt", "Artifact", "Figure", "StructParents", "Tabs", "Fusion", "Dark",
    "PNG", "JPEG", "WEBP", "LA", "PA", "RGB", "RGBA", "Letter", "Legal", "n, json", "figure, json",
    "making, json", "Bambola", "Bambola[*]", "Bambola plan", "Bambola heights",
    "Bambola {}", "Swatch",
    "flat side",
    "after joining", "on top", "one by one", "head last", "clothes last", "body down", "datum, part",
}  # fmt: skip
"""Kinds as files name them, and names that are the same in every language."""
CODE = re.compile(
    r"^Exec=|"
    r"^[A-Z_0-9]+$|^(Ctrl|Alt|Shift)\+|[{}];|<svg|<line|<text|<path|^color: |QFrame|QToolButton|QPushButton"
    r"|QLineEdit|QComboBox|QMenuBar|MessageStrip|SELECT |INSERT |UPDATE |DELETE |PRAGMA|CREATE |ALTER |BEGIN "
    r"|\\d|^#|^--|Atkinson|Fraunces|NotoSans|^Bambola-|d MMM|^-//|^<|^PART|^READ |^WEIGHT |^RANGE "
    r"|^HELLO |^RE\x7f|^parts, |N·mm|(sq|cu) in$|font-family|^%|^\d|^/"
)


MEASURED = re.compile(r"(?<![\w{.])\d[\d.]* ?(mm|cm|g|kg|in|oz)\b(?! stab)")
"""A quantity that a sentence of the core would tell in the same unit to every maker."""


def spoken(text: str) -> bool:
    """Return whether a string looks as if a person reads it."""
    bare = re.sub(r"\{[^}]*\}|<[^>]*>|&nbsp;", "", text)
    head = bare.lstrip("&“ ")[:1]
    several = re.search(r"[A-Za-z]{2,}[,.:;]? [A-Za-z]{2,}", bare)
    return bool(re.search(r"[A-Za-z]{2}", bare) and (head.isupper() or several))


def found(path: Path) -> Iterator[tuple[int, str]]:
    """Yield the strings of a module that are read and not marked: line and text."""
    tree = ast.parse(path.read_text(encoding="utf-8"))
    above = {child: node for node in ast.walk(tree) for child in ast.iter_child_nodes(node)}
    for node in ast.walk(tree):
        if _is_joined(node):
            yield node.lineno, "either of two sentences in one mark: the catalogue gets them as one"
        if isinstance(node, ast.JoinedStr):
            text = "".join(v.value if isinstance(v, ast.Constant) else "{}" for v in node.values)
        elif isinstance(node, ast.Constant) and isinstance(node.value, str):
            text = node.value
        else:
            continue
        if spoken(text) and text not in NAMES and not CODE.search(text) and _shown(node, above):
            yield node.lineno, text


def _is_joined(node: ast.AST) -> TypeGuard[ast.Call]:
    match node:
        case ast.Call(func=ast.Name(id=name)) | ast.Call(func=ast.Attribute(attr=name)):
            return name in MARKS and any(isinstance(each, ast.IfExp) for each in node.args)
    return False


def _shown(node: ast.AST, above: dict[ast.AST, ast.AST]) -> bool:
    """Return whether a string is more than a docstring, a key, a mark's own text or what is compared with."""
    at, up = node, above.get(node)
    if isinstance(up, ast.Expr | ast.Compare | ast.MatchValue | ast.JoinedStr | ast.Assert):
        return False
    while up is not None:
        match up:
            case ast.Call(func=ast.Name(id=name)) | ast.Call(func=ast.Attribute(attr=name)):
                if name in MARKS | SHOW_NOTHING:
                    return False
            case ast.Subscript(slice=inner) if inner is at:
                return False
            case ast.arg() | ast.AnnAssign() if at is getattr(up, "annotation", None):
                return False
            case ast.Assign(targets=[ast.Name(id="__all__")]):
                return False
            case ast.Raise(
                exc=ast.Call(func=ast.Name(id="TypeError" | "LookupError" | "ArithmeticError"))
            ):
                return False  # a fault of the program, not of who uses it
        at, up = up, above.get(up)
    return True


def sentences_in(tree: ast.Module) -> Iterator[tuple[int, str]]:
    """Yield every sentence that is marked to be translated when it is said, and its line."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Call) and ast.unparse(node.func) in ("N_", "NN_"):
            for piece in ast.walk(node):
                if isinstance(piece, ast.Constant) and isinstance(piece.value, str):
                    yield piece.lineno, piece.value


def main() -> int:
    """Print what escapes the catalogue; how many there are."""
    faults = 0
    for path in sorted(ROOT.rglob("*.py")):
        for line, text in found(path):
            faults += 1
            print(f"{path.relative_to(ROOT.parent)}:{line}: not marked for translation: {text!r}")
    for path in sorted((ROOT / "core").rglob("*.py")):
        for line, text in sentences_in(ast.parse(path.read_text(encoding="utf-8"))):
            if said := MEASURED.search(text):
                faults += 1
                print(
                    f"{path.relative_to(ROOT.parent)}:{line}: a quantity in one unit: {said[0]!r}; "
                    "give it as a slot, so that it is said in the maker's"
                )
    return min(faults, 100)


if __name__ == "__main__":
    sys.exit(main())
