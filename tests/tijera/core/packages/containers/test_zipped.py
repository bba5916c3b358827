"""Packages: raw copies to the byte, and hostile ones refused."""

import io
import struct
import unittest
import zipfile
from collections.abc import Callable

from hypothesis import given
from hypothesis import strategies as st

from tests.support.docx import members, zipped
from tijera.core import errors
from tijera.core.packages.containers.zipped import Guards, new_package, open_package, write_package

_PARTS = {"mimetype": b"kind", "a/text.xml": b"<a>" + b"harbour " * 90 + b"</a>", "a/photo.png": bytes(range(256)) * 3}


def _streamed() -> bytes:
    """A package whose sizes stand behind the data, as programs that write to a pipe make it."""

    class Pipe(io.RawIOBase):
        def __init__(self) -> None:
            self.data = bytearray()

        def writable(self) -> bool:
            return True

        def write(self, part: bytes) -> int:  # type: ignore[override]
            self.data += part
            return len(part)

    pipe = Pipe()
    with zipfile.ZipFile(pipe, "w", zipfile.ZIP_DEFLATED) as package:
        for name, content in _PARTS.items():
            package.writestr(name, content)
    return bytes(pipe.data)


def _wide() -> bytes:
    """A package whose records have 64-bit sizes though nothing is large."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as package:
        for name, content in _PARTS.items():
            with package.open(name, "w", force_zip64=True) as member:
                member.write(content)
    return out.getvalue()


class Writing(unittest.TestCase):
    """Only what changed is written anew."""

    def test_without_a_change_the_same_bytes_come_back(self) -> None:
        """Whatever program wrote them."""
        for data in (zipped(_PARTS), _streamed(), _wide()):
            self.assertIs(write_package(open_package(data, "x"), {}, {}), data)

    def test_untouched_members_are_copied_raw(self) -> None:
        """Their records are found again byte for byte, also with data descriptors and 64-bit fields."""
        for name, data in (("plain", zipped(_PARTS)), ("streamed", _streamed()), ("wide", _wide())):
            with self.subTest(name):
                package = open_package(data, "x")
                written = write_package(package, {"a/text.xml": b"<b/>"}, {"a/new.png": b"pixels"})
                for member in package.members:
                    if member.name != "a/text.xml":
                        self.assertIn(data[member.start : member.end], written)
                self.assertEqual(members(written), _PARTS | {"a/text.xml": b"<b/>", "a/new.png": b"pixels"})
                self.assertEqual([m.name for m in open_package(written, "x").members], [*_PARTS, "a/new.png"])

    def test_what_is_written_anew_keeps_date_and_attributes(self) -> None:
        """Read by the standard library; what is new has the first day that the format knows (APPNOTE 4.4.6)."""
        info = zipfile.ZipInfo("a.xml", (2025, 3, 4, 5, 6, 8))
        info.create_version, info.create_system, info.external_attr, info.internal_attr = 45, 3, 0o100640 << 16, 1
        data = io.BytesIO()
        with zipfile.ZipFile(data, "w") as package:
            package.writestr(info, b"<a/>")
        written = write_package(open_package(data.getvalue(), "x"), {"a.xml": b"<b/>"}, {"n.png": b"p"})
        with zipfile.ZipFile(io.BytesIO(written)) as package:
            again, new = package.infolist()
        self.assertEqual(again.date_time, info.date_time)
        self.assertEqual((again.create_version, again.create_system), (45, 3))
        self.assertEqual((again.external_attr, again.internal_attr), (info.external_attr, 1))
        self.assertEqual((new.date_time, new.create_version), ((1980, 1, 1, 0, 0, 0), 20))

    def test_what_must_stand_first_does_and_stands_once(self) -> None:
        """Wherever it stood before, with what it is to hold; all others are there, once each."""
        behind = zipped({name: _PARTS[name] for name in ("a/text.xml", "mimetype", "a/photo.png")})
        for source in (behind, zipped({"a/text.xml": b"<a/>"})):
            written = write_package(open_package(source, "odd.zip"), {}, {"b.txt": b"new"}, first=("mimetype", b"kind"))
            with zipfile.ZipFile(io.BytesIO(written)) as package:
                names = package.namelist()
                self.assertEqual((names[0], package.read("mimetype")), ("mimetype", b"kind"))
            self.assertEqual(sorted(names), sorted({*members(source), "mimetype", "b.txt"}))

    def test_pictures_are_stored_and_text_is_deflated(self) -> None:
        """What is compressed already would only cost time."""
        written = write_package(open_package(zipped(_PARTS), "x"), {}, {"n.png": b"p" * 400, "n.xml": b"<n/>" * 90})
        methods = {member.name: member.method for member in open_package(written, "x").members}
        self.assertEqual((methods["n.png"], methods["n.xml"]), (0, 8))

    @given(st.dictionaries(st.text("abcé/", min_size=1, max_size=8).filter(lambda n: not n.startswith("/")), st.binary(max_size=200), min_size=1, max_size=5))  # fmt: skip
    def test_any_package_survives_a_change(self, parts: dict[str, bytes]) -> None:
        """Read by the standard library, which checks every checksum."""
        try:
            package = open_package(zipped(parts), "x")
        except errors.MemberNameUnsafe:
            return
        first = next(iter(parts))
        written = write_package(package, {first: b"changed"}, {"zz.png": b"new"})
        self.assertEqual(members(written), parts | {first: b"changed", "zz.png": b"new"})

    def test_a_directory_beyond_32_bits_is_found(self) -> None:
        """By the two records that stand before the end (APPNOTE 4.3.14 and 4.3.15), as writers of large packages make it."""
        data = zipped(_PARTS)
        end = data.rindex(b"PK\x05\x06")
        count, size, offset = struct.unpack_from("<H2I", data, end + 10)
        wide = struct.pack("<4sQ2H2I4Q", b"PK\x06\x06", 44, 45, 45, 0, 0, count, count, size, offset)
        locator = struct.pack("<4sIQI", b"PK\x06\x07", 0, end, 1)
        unset = struct.pack("<4s4H2IH", b"PK\x05\x06", 0, 0, 0xFFFF, 0xFFFF, 0xFFFFFFFF, 0xFFFFFFFF, 0)
        package = open_package(data[:end] + wide + locator + unset, "x")
        self.assertEqual({name: package.read(name) for name in _PARTS}, _PARTS)

    def test_wide_sizes_and_offsets_of_the_directory_are_read(self) -> None:
        """From the extra field of 64 bits, in its order, behind a field of another kind (APPNOTE 4.5.3)."""
        data = zipped({"b": b"yy", "a": b"x"})
        at = data.rindex(b"PK\x01\x02")
        entry = bytearray(data[at : at + 47])
        size, offset = struct.unpack_from("<I", entry, 24)[0], struct.unpack_from("<I", entry, 42)[0]
        self.assertGreater(offset, 0)
        extra = struct.pack("<2H4s2H2Q", 0x9999, 4, b"skip", 1, 16, size, offset)
        struct.pack_into("<I", entry, 24, 0xFFFFFFFF)
        struct.pack_into("<I", entry, 42, 0xFFFFFFFF)
        struct.pack_into("<H", entry, 30, len(extra))
        ending = bytearray(data[at + 47 :])
        struct.pack_into("<I", ending, 12, struct.unpack_from("<I", ending, 12)[0] + len(extra))
        package = open_package(data[:at] + bytes(entry) + extra + bytes(ending), "x")
        self.assertEqual((package.read("a"), package.read("b")), (b"x", b"yy"))

    def test_a_package_of_twenty_megabytes_is_an_ordinary_one(self) -> None:
        """Photographs of a handbook add up."""
        photo = bytes(21 * 10**6)
        self.assertEqual(
            open_package(zipped({"a/photo.png": photo}, zipfile.ZIP_STORED), "x").read("a/photo.png"), photo
        )

    def test_the_head_of_a_member_is_read_alone(self) -> None:
        """Stored or deflated; of a short one all there is; of a missing one it is said."""
        for data in (
            zipped(_PARTS),
            _streamed(),
            write_package(open_package(zipped(_PARTS), "x"), {}, {"b.png": b"123"}),
        ):
            package = open_package(data, "x.zip")
            for member in package.members:
                for most in (1, 10, 10_000):
                    self.assertEqual(package.head(member.name, most), package.read(member.name)[:most])
            with self.assertRaises(errors.PartMissing):
                package.head("gone", 5)

    def test_what_was_written_here_is_not_summed_again_and_all_else_is(self) -> None:
        """A sum that is wrong is seen in every package from outside."""
        data = bytearray(zipped({"a/photo.png": bytes(range(256))}))
        data[data.index(bytes(range(200)))] ^= 1
        with self.assertRaises(errors.MemberDamaged):
            open_package(bytes(data), "x.zip")
        self.assertIn("a/photo.png", open_package(bytes(data), "x.zip", Guards(is_own=True)))

    def test_a_new_member_claims_nothing_of_itself(self) -> None:
        """No comment, no volume, no flag for text (APPNOTE 4.4.14: bit 0 means ASCII); its time is the first there is."""
        written = write_package(open_package(zipped(_PARTS), "x.zip"), {}, {"b.png": b"\x89PNG"})
        with zipfile.ZipFile(io.BytesIO(written)) as package:
            info = package.getinfo("b.png")
        self.assertEqual((info.internal_attr, info.volume, info.comment, info.date_time[0]), (0, 0, b"", 1980))

    def test_a_comment_at_the_end_stays(self) -> None:
        """It belongs to the user's file."""
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as package:
            package.writestr("a.xml", "<a/>")
            package.comment = b"harbour"
        written = write_package(open_package(out.getvalue(), "x"), {"a.xml": b"<b/>"}, {})
        self.assertEqual(zipfile.ZipFile(io.BytesIO(written)).comment, b"harbour")


def _patched(find: bytes, offset: int, value: bytes) -> bytes:
    """The package with some bytes of its first matching record changed."""
    data = bytearray(zipped(_PARTS))
    at = data.index(find) + offset
    data[at : at + len(value)] = value
    return bytes(data)


def _bomb(size: int) -> bytes:
    """A member that unpacks to so many zeros."""
    return zipped({"word/media/bomb.bin": b"\0" * size})


def _lying_size() -> bytes:
    """A member that unpacks to more than it says."""
    data = bytearray(zipped({"a.xml": b"x" * 50_000}))
    central = data.index(b"PK\x01\x02")
    struct.pack_into("<I", data, central + 24, 10)
    return bytes(data)


def _two_names(first: str, second: str) -> bytes:
    return zipped({first: b"1", second: b"2"})


class Guarding(unittest.TestCase):
    """Every hostile case has a refusal of its own."""

    def _refused(self, kind: type[errors.TijeraError], make: Callable[[], bytes], guards: Guards | None = None) -> None:
        with self.assertRaises(kind):
            open_package(make(), "case.docx", guards)

    def test_what_is_no_package(self) -> None:
        """Empty, text, old binary formats, encrypted ones."""
        ole = b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + b"\0" * 600
        self._refused(errors.InputEmpty, lambda: b"")
        self._refused(errors.NotAPackage, lambda: b"Dear crew,")
        self._refused(errors.LegacyDocument, lambda: ole)
        self._refused(errors.PackageEncrypted, lambda: ole + "EncryptedPackage".encode("utf-16-le"))
        self._refused(errors.PackageEncrypted, lambda: _patched(b"PK\x01\x02", 8, b"\x01\x00"))

    def test_what_is_cut_short_or_contradicts_itself(self) -> None:
        """At every length that loses the directory."""
        whole = zipped(_PARTS)
        for share in (0.2, 0.5, 0.9, 0.99):
            self._refused(errors.PackageTruncated, lambda share=share: whole[: int(len(whole) * share)])  # type: ignore[misc]
        self._refused(errors.PackageTruncated, lambda: _patched(b"PK\x01\x02", 42, struct.pack("<I", 3)))
        self._refused(errors.PackageTruncated, lambda: _patched(b"PK\x01\x02", 20, struct.pack("<I", 10**6)))

    def test_a_wide_size_that_is_cut_short_is_refused(self) -> None:
        """Seven bytes are no number of 64 bits."""
        data = bytearray(zipped({"a": b"x"}))
        at = data.rindex(b"PK\x01\x02")
        for length in (7, 0):
            extra = struct.pack("<2H", 1, length) + bytes(length)
            entry = bytearray(data[at : at + 47])
            struct.pack_into("<I", entry, 24, 0xFFFFFFFF)
            struct.pack_into("<H", entry, 30, len(extra))
            ending = bytearray(data[at + 47 :])
            struct.pack_into("<I", ending, 12, 47 + len(extra))
            broken = bytes(data[:at] + entry + extra + ending)
            self._refused(errors.PackageTruncated, lambda broken=broken: broken)  # type: ignore[misc]

    def test_what_unpacks_to_too_much(self) -> None:
        """By its stated size, by its ratio, by all together, or by lying about it."""
        self._refused(errors.UnpacksTooLarge, lambda: _bomb(40 * 10**6))
        self._refused(errors.UnpacksTooLarge, lambda: _patched(b"PK\x01\x02", 24, struct.pack("<I", 3 * 10**9)))
        self._refused(errors.UnpacksTooLarge, lambda: zipped(_PARTS), Guards(total_bytes=500))
        self._refused(errors.MemberDamaged, _lying_size)

    def test_the_bounds_themselves_are_allowed(self) -> None:
        """Exactly as large as the guard says is not too large."""
        data = zipped({"word/media/flat.bin": b"\0" * 50_000})
        self._refused(errors.UnpacksTooLarge, lambda: data, Guards(ratio_from_bytes=49_999))
        self.assertEqual(len(open_package(data, "case.docx", Guards(ratio_from_bytes=50_000)).members), 1)
        self.assertEqual(len(open_package(data, "case.docx", Guards(total_bytes=50_000, part_bytes=50_000)).members), 1)
        self._refused(errors.UnpacksTooLarge, lambda: data, Guards(ratio_from_bytes=50_000, part_bytes=49_999))
        stored = new_package({"word/media/flat.bin": b"\0" * 50_000}, stored=("word/media/flat.bin",))
        self.assertEqual(len(open_package(stored, "case.docx", Guards(ratio_from_bytes=0, ratio=1)).members), 1)

    def test_the_longest_comment_is_read_past(self) -> None:
        """65,535 bytes (APPNOTE 4.4.12); it comes along."""
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as package:
            package.writestr("a.xml", b"<a/>")
            package.comment = b"c" * 65_535
        written = write_package(open_package(out.getvalue(), "x"), {"a.xml": b"<b/>"}, {})
        with zipfile.ZipFile(io.BytesIO(written)) as package:
            self.assertEqual((len(package.comment), package.read("a.xml")), (65_535, b"<b/>"))

    def test_as_many_members_as_the_guard_says(self) -> None:
        """Two of two are allowed, three are not."""
        two, three = (zipped({f"{n}.xml": b"<a/>" for n in range(count)}) for count in (2, 3))
        self.assertEqual(len(open_package(two, "x", Guards(members=2)).members), 2)
        self._refused(errors.TooManyMembers, lambda: three, Guards(members=2))

    def test_a_new_package_is_a_whole_one(self) -> None:
        """Opened by our own strict reader and by the standard library's, in the order given."""
        parts = {"mimetype": b"text/plain", "a.xml": b"<a/>" * 40, "b.png": b"p" * 30}
        data = new_package(parts, stored=("mimetype",))
        self.assertEqual(members(data), parts)
        found = {member.name: member.method for member in open_package(data, "x").members}
        self.assertEqual(found, {"mimetype": 0, "a.xml": 8, "b.png": 8})
        with zipfile.ZipFile(io.BytesIO(data)) as package:
            self.assertIsNone(package.testzip())

    def test_one_of_several_volumes_is_refused(self) -> None:
        """Whether it is this file or its directory that begins elsewhere (APPNOTE 4.3.16)."""
        for offset in (4, 6):
            self._refused(errors.PackageTruncated, lambda offset=offset: _patched(b"PK\x05\x06", offset, b"\x01\x00"))  # type: ignore[misc]

    def test_a_package_with_nothing_in_it(self) -> None:
        """The shortest zip file there is: 22 bytes, the end of a directory of none (APPNOTE 4.3.16)."""
        empty = io.BytesIO()
        zipfile.ZipFile(empty, "w").close()
        self.assertEqual(len(empty.getvalue()), 22)
        with self.assertRaisesRegex(errors.PackageTruncated, "there is nothing in it"):
            open_package(empty.getvalue(), "case.docx")

    def test_too_many_members(self) -> None:
        """Ten thousand."""
        self._refused(errors.TooManyMembers, lambda: zipped({f"m{n}": b"" for n in range(10_000)}))

    def test_names_that_leave_the_package_or_stand_twice(self) -> None:
        """Also where only their case differs."""
        for name in ("../evil.xml", "a/../../evil.xml", "/etc/evil", "a\\..\\evil", "C:/evil", "n" * 300):
            with self.subTest(name[:20]):
                self._refused(errors.MemberNameUnsafe, lambda name=name: _two_names("a.xml", name))  # type: ignore[misc]
        self._refused(errors.MemberNameUnsafe, lambda: _two_names("a.xml", "A.XML"))
        self._refused(errors.MemberNameUnsafe, lambda: _patched(b"PK\x03\x04", 30, b"mimeTYPE"))

    def test_damaged_members_and_unusual_methods(self) -> None:
        """A checksum that does not match, data that can't be unpacked, a method office files don't use."""
        self._refused(errors.MemberDamaged, lambda: _patched(b"PK\x01\x02", 16, b"\1\2\3\4"))
        self._refused(
            errors.MemberDamaged, lambda: zipped({"a.png": b"abc"}, zipfile.ZIP_STORED).replace(b"abc", b"abd")
        )
        self._refused(errors.MemberMethod, lambda: zipped({"a.xml": b"<a/>" * 90}, zipfile.ZIP_BZIP2))

    def test_a_file_over_the_limit_is_refused_unread(self) -> None:
        """The guard is a setting."""
        self._refused(errors.InputTooHeavy, lambda: zipped(_PARTS), Guards(file_bytes=100))

    def test_refusing_a_bomb_unpacks_nothing(self) -> None:
        """The stated size is enough to refuse it: with its data destroyed the refusal is the same."""
        bomb = bytearray(_bomb(40 * 10**6))
        start = bomb.index(b"bomb.bin") + len(b"bomb.bin")
        bomb[start : start + 1_000] = b"\xff" * 1_000
        self._refused(errors.UnpacksTooLarge, lambda: bytes(bomb))
