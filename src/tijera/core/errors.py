r"""Every error that Tijera raises on purpose, as one tree.

::

    TijeraError
    ├── WrongCall                 the request itself can't be meant          exit 2
    │   ├── LengthUnreadable      ├── LimitUnreadable      ├── CropOutside
    │   ├── AreaOutside           ├── SpotUnknown          ├── WidthTooLarge
    │   ├── NotFound              ├── NothingToUndo        ├── FormatUnknown
    │   ├── ChangedMeanwhile      ├── DataTooNew           ├── WouldOverwrite
    │   ├── HostRefused           ├── SceneBroken          ├── AreaEmpty
    │   ├── NotAble               ├── WindowForgotten      ├── KeyTaken
    │   ├── OptionUnreadable      ├── MarkUnknown          ├── MarkEmpty
    │   ├── MarkTooLong           ├── TextTooLong          ├── MarkOutside
    │   ├── MarkGone              ├── TooManyMarks         ├── ChangedElsewhere
    │   ├── PartInUse             ├── PartOfItself         ├── RoomTooLarge
    │   ├── ChangedOnDisk         ├── FileUnreachable      ├── StandsThere
    │   ├── FolderMissing         ├── NotPossibleThere     ├── WrongOut
    │   ├── Superseded            ├── ExtraMissing         ├── ClusterUnreachable
    │   ├── AddressUnreadable     ├── NoAddress            ├── TooManyAddresses
    │   ├── NotAMessage           ├── MailNotSetUp         ├── NotWaiting
    │   ├── NotAnew               ├── BackupWouldReplace   ├── StillRunning
    │   ├── NothingToClear        ├── LinksOff             ├── LinkEndsBefore
    │   ├── LinkPortTaken         ├── TimesUnreadable      ├── RoundsEndBefore
    │   ├── NotLetIn              ├── NotRunning           ├── FolderInUse
    │   ├── NotSignedIn           ├── SignInWrong          ├── SignInPaused
    │   ├── PersonThere           ├── PersonUnknown        ├── PersonUnreadable
    │   ├── NotShared             └── UploadStalled
    ├── LinkNotOpened             a link that can't be opened now            exit 2
    │   ├── LinkGone              ├── LinkClosed           └── LinkWrongPassword
    ├── DiskFull                  nothing more can be kept                   exit 2
    ├── StoreBusy                 another program has the database           exit 2
    ├── FolderUnusable            the data folder is gone or can't be written exit 2
    ├── RecogniserFailed          words on a picture that could not be read  exit 2
    ├── ScreenUnavailable         a screen that can't be taken now           exit 2
    ├── LimitNotMet               the limit can't be met; nothing written    exit 3
    ├── NotTaken                  a mail server does not take the message    exit 3
    │   ├── TakenTooHeavy         ├── SenderNotTaken       └── RecipientNotTaken
    └── InputRefused              what came in can't be kept whole           exit 4
        ├── InputEmpty            ├── InputTooHeavy        ├── BackupBroken
        ├── PackageRefused
        │   ├── NotAPackage       ├── PackageTruncated     ├── PackageEncrypted
        │   ├── LegacyDocument    ├── PackageSigned        ├── TooManyMembers
        │   ├── UnpacksTooLarge   ├── MemberNameUnsafe     ├── MemberDamaged
        │   ├── MemberMethod      ├── PartMissing          ├── PartMalformed
        │   ├── DoctypeRefused    ├── NotADocument         ├── StructureBroken
        │   └── MessageMalformed
        ├── PictureRefused
        │   ├── NotAPicture       ├── PictureDamaged       └── PictureTooLarge
        └── StripRefused              a strip of a long page; what was joined stays
            ├── StripApart        ├── StripAmbiguous       └── StripSize

An error carries values; its texts are made from them. `detail` says what happened and why, `remedy` what to do.
"""

from __future__ import annotations

from typing import ClassVar


class TijeraError(Exception):
    """The root. Subclasses give a stable `code`, a `title` and two texts that are filled with the error's values."""

    code: ClassVar[str] = "error"
    title: ClassVar[str] = "Something went wrong"
    detail_text: ClassVar[str] = "Tijera could not do this."
    remedy_text: ClassVar[str] = "Try again."

    def __init__(self, **values: object) -> None:
        self.values = values
        super().__init__(self.detail)

    @property
    def heading(self) -> str:
        """The title, with the real values."""
        return self.title.format(**self.values)

    @property
    def detail(self) -> str:
        """What happened and why, with the real values."""
        return self.detail_text.format(**self.values)

    @property
    def remedy(self) -> str:
        """What to do about it."""
        return self.remedy_text.format(**self.values)


class WrongCall(TijeraError):
    """The request can't be meant: a value out of range, a thing that isn't there."""

    code = "wrong-call"


class LengthUnreadable(WrongCall):
    """A length that can't be read."""

    code = "length-unreadable"
    title = "That is not a length"
    detail_text = "“{text}” could not be read as a length."
    remedy_text = "Type a number with its unit, such as 60 mm, 6 cm or 2.4 in."


class LimitUnreadable(WrongCall):
    """A limit that can't be read."""

    code = "limit-unreadable"
    title = "That is not a limit"
    detail_text = "“{text}” could not be read as a number of bytes."
    remedy_text = "Type a number with its unit, such as 2 MB, 500 kB or 10 MiB."


class CropOutside(WrongCall):
    """A crop that does not lie on its clipping."""

    code = "crop-outside"
    title = "The crop lies outside the clipping"
    detail_text = "The crop {crop} does not lie within the clipping of {size} px."
    remedy_text = "Choose a crop of at least 1 × 1 px inside the clipping."


class AreaOutside(WrongCall):
    """An area that does not lie on its frame."""

    code = "area-outside"
    title = "The area lies outside the screen"
    detail_text = "The area {area} does not lie within the frame of {size} px."
    remedy_text = "Draw the area inside the frozen screen."


class AreaEmpty(WrongCall):
    """An area without a pixel."""

    code = "area-empty"
    title = "The area is empty"
    detail_text = "An area of {width} × {height} px has nothing on it."
    remedy_text = "Draw from corner to corner, or type a width and a height of at least 1 px."


class NotAble(WrongCall):
    """Something that this source can't do; the words are those of its table of abilities."""

    code = "not-able"
    title = "This source can't do that"
    detail_text = "{source} has no such ability: {ability}."
    remedy_text = "{instead}"


class WindowForgotten(WrongCall):
    """The whole picture of a covered window, which is kept for the last frames only."""

    code = "window-forgotten"
    title = "That window's own picture is gone"
    detail_text = "The whole picture of “{title}” is kept only while its frozen screen is fresh."
    remedy_text = "Freeze the screen again and choose the window there."


class KeyTaken(WrongCall):
    """A key that another action has."""

    code = "key-taken"
    title = "That key is taken"
    detail_text = "{keys} belongs to “{other}” already."
    remedy_text = "Choose another key, or give “{other}” another one first."


class OptionUnreadable(WrongCall):
    """An option with a value that it can't have."""

    code = "option-unreadable"
    title = "That can't be set"
    detail_text = "“{value}” can't be the value of {option}: {why}."
    remedy_text = "Choose another value; the old one still holds."


class SceneBroken(WrongCall):
    """A scene file of the practice desk that can't be used."""

    code = "scene-broken"
    title = "The scene can't be read"
    detail_text = "{path}: {why}."
    remedy_text = (
        "Mend the file, or start without --scene; the one that ships with Tijera shows all that a scene can hold."
    )


class SpotUnknown(WrongCall):
    """A spot that the destination does not have."""

    code = "spot-unknown"
    title = "There is no such place"
    detail_text = "The document has no place “{spot}” that can take a picture."
    remedy_text = "List the places again and choose one of them."


class WidthTooLarge(WrongCall):
    """A width that the place does not have."""

    code = "width-too-large"
    title = "Wider than the place"
    detail_text = "{width_mm:.1f} mm was asked for, the place has {place_mm:.1f} mm."
    remedy_text = "Type {place_mm:.1f} mm or less, or choose a wider place."


class NotFound(WrongCall):
    """Something that was named is not there."""

    code = "not-found"
    title = "Not there any more"
    detail_text = "There is no {what} “{key}”."
    remedy_text = "Load the page again; it may have been removed or undone."


class NothingToUndo(WrongCall):
    """Undo or redo with nothing to do."""

    code = "nothing-to-undo"
    title = "Nothing to {which}"
    detail_text = "There is nothing to {which}."
    remedy_text = "Go on working; every change can be undone from here on."


class ChangedMeanwhile(WrongCall):
    """What long work began with is not what stands there now."""

    code = "changed-meanwhile"
    title = "The document was changed meanwhile"
    detail_text = "While the search ran, the placed pictures of “{name}” were changed. Nothing was applied."
    remedy_text = "Start it again; it takes what stands there now."


class DataTooNew(WrongCall):
    """Kept data that a newer version wrote: opening them could lose what it knows and this one does not."""

    code = "data-too-new"
    title = "Written by a newer version"
    detail_text = "The kept data have schema {found}, this version of Tijera knows {known}."
    remedy_text = "Use the newer version, or give another folder with --data."


class ChangedOnDisk(WrongCall):
    """A file that somebody else changed since it was read."""

    code = "changed-on-disk"
    title = "The file was changed meanwhile"
    detail_text = "“{name}” is not the version any more that was read; nothing was written over it."
    remedy_text = "Take over the newer version first, then write it back."


class FileUnreachable(WrongCall):
    """A file of this computer that can't be read or written."""

    code = "file-unreachable"
    title = "The file can't be reached"
    detail_text = "“{path}”: {why}."
    remedy_text = "Check that it is there and may be read and written, and try again."


class WouldOverwrite(WrongCall):
    """The copy was to be written over its own original."""

    code = "would-overwrite"
    title = "That is the original"
    detail_text = "“{path}” is the file that the picture is placed into; it is never changed."
    remedy_text = "Give another name with --out."


class StandsThere(WrongCall):
    """A file has the name that is to be written to."""

    code = "stands-there"
    title = "There is such a file already"
    detail_text = "“{path}” is there already, and nothing is replaced unasked."
    remedy_text = "Give another name with --out, or --force to replace it."


class FolderMissing(WrongCall):
    """The folder that is to be written to is not there."""

    code = "folder-missing"
    title = "There is no such folder"
    detail_text = "“{folder}” is not there, so “{name}” can't be written into it."
    remedy_text = "Make the folder first, or give another one with --out."


class WrongOut(WrongCall):
    """The copy can't be written to where it was to go."""

    code = "wrong-out"
    title = "The copy can't go there"
    detail_text = "It can't be written: {why}."
    remedy_text = "Give the name of a file with --out."


class NotPossibleThere(WrongCall):
    """Something was asked for that the place can't do."""

    code = "not-possible-there"
    title = "That can't be done there"
    detail_text = "{what} is not possible {where}: {why}."
    remedy_text = "Leave it out, or choose another place; “tijera spots” lists them."


class FormatUnknown(WrongCall):
    """A picture format that is not written."""

    code = "format-unknown"
    title = "Unknown picture format"
    detail_text = "A clipping is saved as PNG, JPEG, WebP, TIFF or BMP, not as “{format}”."
    remedy_text = "Choose PNG for screens and drawings, JPEG for photographs."


class HostRefused(WrongCall):
    """A request that was not made from the application's own pages."""

    code = "host-refused"
    title = "Request from elsewhere"
    detail_text = "The request was addressed to or sent by “{host}”, not by this application's own page."
    remedy_text = "Open the address that Tijera printed when it started."


class NotLetIn(WrongCall):
    """A request of somebody who was not let in."""

    code = "not-let-in"
    title = "Not let in"
    detail_text = "This browser or program was not let in; Tijera answers its owner alone."
    remedy_text = "Open the whole address that Tijera printed when it started, or what “tijera address” prints."


class NotSignedIn(WrongCall):
    """A request to a server for several people without a session."""

    code = "not-signed-in"
    title = "Not signed in"
    detail_text = "Nobody is signed in here, or it was too long ago."
    remedy_text = "Load the page again and sign in; what was confirmed is kept."


class SignInWrong(WrongCall):
    """A name and a password that don't belong together; which of the two is wrong is not said."""

    code = "sign-in-wrong"
    title = "Not signed in"
    detail_text = "Name and password don't belong together."
    remedy_text = "Try again; after five wrong ones in a row there is a pause."


class SignInPaused(WrongCall):
    """Too many wrong passwords in a row for a name."""

    code = "sign-in-paused"
    title = "Not signed in"
    detail_text = "There were too many wrong passwords for this name."
    remedy_text = "Try again in {seconds} seconds."


class PersonThere(WrongCall):
    """A name that somebody has already."""

    code = "person-there"
    title = "The name is taken"
    detail_text = "“{name}” has an account already."
    remedy_text = "Give another name, or another password with “tijera people password”."


class PersonUnknown(WrongCall):
    """A name that nobody has."""

    code = "person-unknown"
    title = "Nobody has that name"
    detail_text = "“{name}” has no account."
    remedy_text = "“tijera people list” names everybody."


class PersonUnreadable(WrongCall):
    """A name or a password that can't be taken."""

    code = "person-unreadable"
    title = "That can't be taken"
    detail_text = "“{name}”: {why}."
    remedy_text = "Give another one."


class NotShared(WrongCall):
    """Something of the machine itself, where several people share the server."""

    code = "not-shared"
    title = "Not on a shared server"
    detail_text = "{what} is a thing of the machine itself, and this server is shared by several people."
    remedy_text = "Open the file in the browser instead, or use a Tijera that runs for you alone."


class UploadStalled(WrongCall):
    """An upload of which nothing more came."""

    code = "upload-stalled"
    title = "The upload stopped"
    detail_text = "Nothing more of what was being sent has come for {seconds} seconds."
    remedy_text = "Send it again; nothing of it was kept."


class NotRunning(WrongCall):
    """No application works on the data folder."""

    code = "not-running"
    title = "Not running"
    detail_text = "No Tijera is running there."
    remedy_text = "Start it with “tijera serve”, or name the folder that it uses with --data."


class FolderInUse(WrongCall):
    """Another application works on the data folder."""

    code = "folder-in-use"
    title = "Already running"
    detail_text = "Another Tijera works on “{folder}”.{where}"
    remedy_text = "Use that one (“tijera address” prints how to get in), end it, or give another folder with --data."


class MarkUnknown(WrongCall):
    """A kind of mark that there is not."""

    code = "mark-unknown"
    title = "There is no such mark"
    detail_text = "“{kind}” is no kind of mark."
    remedy_text = "Choose one of the tools beside the mat."


class MarkEmpty(WrongCall):
    """A mark of no size."""

    code = "mark-empty"
    title = "The mark has no size"
    detail_text = "{what}: from its first to its last point there is less than a pixel, or a point is missing."
    remedy_text = "Draw it a little longer; nothing was changed."


class MarkTooLong(WrongCall):
    """A mark with too many points."""

    code = "mark-too-long"
    title = "The stroke is too long"
    detail_text = "The stroke has {count} points; {most} are taken."
    remedy_text = "Lift the pen in between: several strokes do the same."


class TextTooLong(WrongCall):
    """A text with too many characters."""

    code = "text-too-long"
    title = "The text is too long"
    detail_text = "The text has {count} characters; on a picture {most} are taken."
    remedy_text = "Put long text into the document, and a short one on the picture."


class MarkOutside(WrongCall):
    """A mark that nobody would see."""

    code = "mark-outside"
    title = "The mark lies outside"
    detail_text = "{what} lies wholly outside the picture of {size} px and its margins."
    remedy_text = "Draw it on the picture, or add room on that side first."


class MarkGone(WrongCall):
    """A mark that is not on the clipping any more."""

    code = "mark-gone"
    title = "The mark is not there any more"
    detail_text = "The clipping “{name}” has no such mark."
    remedy_text = "It may have been deleted in another window; undo brings it back."


class TooManyMarks(WrongCall):
    """More marks than a picture can bear."""

    code = "too-many-marks"
    title = "Too many marks"
    detail_text = "There are {count} marks on the clipping; {most} are taken."
    remedy_text = "Delete some, or part the clipping into several."


class ChangedElsewhere(WrongCall):
    """A clipping that was changed in another window meanwhile."""

    code = "changed-elsewhere"
    title = "Changed in another window"
    detail_text = "“{name}” was changed elsewhere since it was shown here. Your last change was not made, so that nothing is overwritten."
    remedy_text = "You see it now as it is; make the change once more."


class Superseded(WrongCall):
    """Something was changed by somebody else between reading it and writing it."""

    code = "superseded"
    title = "Changed in another window"
    detail_text = (
        "The {what} was changed elsewhere in the same moment. Your change was not made, so that nothing is overwritten."
    )
    remedy_text = "You see it now as it is; make the change once more."


class PartInUse(WrongCall):
    """A clipping that is laid on another one."""

    code = "part-in-use"
    title = "It is part of another clipping"
    detail_text = "“{name}” is laid on “{other}”."
    remedy_text = "Take it off there first, or remove both together."


class PartOfItself(WrongCall):
    """A clipping laid on itself, straight or through others."""

    code = "part-of-itself"
    title = "A clipping can't lie on itself"
    detail_text = "“{name}” holds the clipping that it would be laid on."
    remedy_text = "Take another clipping, or part a copy of it first."


class RoomTooLarge(WrongCall):
    """A picture that would become larger than can be worked on."""

    code = "room-too-large"
    title = "The picture would be too large"
    detail_text = "With its margins and scale the picture would have {width} × {height} px; {most} pixels are taken."
    remedy_text = "Take smaller margins or a smaller scale."


class ScreenUnavailable(TijeraError):
    """A screen that can't be taken: none there, or not allowed."""

    code = "screen-unavailable"
    title = "The screen can't be taken"
    detail_text = "This computer's screen gave no picture: {why}."
    remedy_text = "Run Tijera in the session that shows the screen, or take from a shared screen or a pasted picture."


class ExtraMissing(WrongCall):
    """Something needs packages that are no part of the usual installation."""

    code = "extra-missing"
    title = "Something is not installed"
    detail_text = "For {what} more packages are needed than the usual ones."
    remedy_text = "Install them with: pip install 'tijera[{extra}]'."


class ClusterUnreachable(WrongCall):
    """No scheduler answers at an address."""

    code = "cluster-unreachable"
    title = "The cluster does not answer"
    detail_text = "No scheduler answers at “{address}”."
    remedy_text = (
        "Check the address, as tcp://HOST:8786, and that the scheduler runs; without --cluster this computer does it."
    )


class AddressUnreadable(WrongCall):
    """What was typed is no address."""

    code = "address-unreadable"
    title = "An address that can't be read"
    detail_text = "“{address}” can't be an address: {why}."
    remedy_text = "Write it as name@host, several parted by commas."


class NoAddress(WrongCall):
    """A message without one of the addresses that it needs."""

    code = "no-address"
    title = "An address is missing"
    detail_text = "The message needs {what} before it can be sent."
    remedy_text = "Fill it in above the text of the message."


class TooManyAddresses(WrongCall):
    """More recipients than one message may have."""

    code = "too-many-addresses"
    title = "Too many addresses"
    detail_text = "The message goes to {found} addresses; {most} are the most."
    remedy_text = "Send it in several parts, or to one address that stands for a group."


class NotAMessage(WrongCall):
    """What was not written here can't be sent from here."""

    code = "not-a-message"
    title = "Only messages that were begun here can be sent"
    detail_text = "{name} was not written here."
    remedy_text = "Download the copy and send it from your mail program, or begin a new message."


class MailNotSetUp(WrongCall):
    """Nobody has said yet which server takes the mail."""

    code = "mail-not-set-up"
    title = "No mail server is set up"
    detail_text = "Tijera does not know which server takes your mail."
    remedy_text = "Set one up under Hand over, Send; or have the message as a draft for your own mail program."


class NothingToClear(WrongCall):
    """Nothing on the rack may go."""

    code = "nothing-to-clear"
    title = "Nothing may go"
    detail_text = "No clipping that stands nowhere and is not pinned is older than {days} days."
    remedy_text = "Give fewer days, or remove clippings by hand."


class LinksOff(WrongCall):
    """A link is asked for where nobody has said how others would reach it."""

    code = "links-off"
    title = "Links are off"
    detail_text = "Nobody could reach a link: it is not set up at which address."
    remedy_text = "Set links up under Options, or save the picture and hand over the file."


class LinkEndsBefore(WrongCall):
    """A link that would have ended before it was made."""

    code = "link-ends-before"
    title = "That day is over"
    detail_text = "A link whose last day is {day} could not be opened any more."
    remedy_text = "Choose today or a later day, or none."


class TimesUnreadable(WrongCall):
    """Times at which something is to be taken that can't be meant."""

    code = "times-unreadable"
    title = "When is not understood"
    detail_text = "“{text}” can't be used: {why}."
    remedy_text = "Give a number of minutes, or times such as 8:00, 12:30, 16:00."


class RoundsEndBefore(WrongCall):
    """Rounds that would end before anything is taken."""

    code = "rounds-end-before"
    title = "Nothing would be taken"
    detail_text = "The end lies before the first time at which something would be taken."
    remedy_text = "Choose a later end."


class LinkPortTaken(WrongCall):
    """Links can't be answered at a port."""

    code = "link-port-taken"
    title = "Links can't be answered there"
    detail_text = "Port {port} of this computer can't be used: {why}."
    remedy_text = "Choose another port, and pass requests for the address on to that one."


class NotAnew(WrongCall):
    """A clipping that can't be taken anew."""

    code = "not-anew"
    title = "{name} can't be taken anew"
    detail_text = "{why}"
    remedy_text = "{instead}"


class BackupWouldReplace(WrongCall):
    """Restoring into a folder that holds something."""

    code = "backup-would-replace"
    title = "There is something already"
    detail_text = "{folder} is not empty."
    remedy_text = "Give another folder with --data, or --force: then what is there is moved aside, not removed."


class StillRunning(WrongCall):
    """The application runs on the folder that is to be restored."""

    code = "still-running"
    title = "Tijera still runs"
    detail_text = "It answers at {address} and uses that folder."
    remedy_text = "Stop it, then restore."


class NotWaiting(WrongCall):
    """A message that does not wait any more."""

    code = "not-waiting"
    title = "The message does not wait any more"
    detail_text = "It is {state}."
    remedy_text = "Look at the list of what was sent."


class LimitNotMet(TijeraError):
    """The limit can't be met without losing what must stay readable."""

    code = "limit-not-met"
    title = "It can't be made to fit"
    detail_text = "The file would weigh at least {least}, {over} over its limit of {limit}."
    remedy_text = "In the way: {in_the_way}. Take a picture out, crop one, or raise the limit."

    def __init__(self, *, least_bytes: int, over_bytes: int, limit_bytes: int, **values: object) -> None:
        exact = {"least_bytes": least_bytes, "over_bytes": over_bytes, "limit_bytes": limit_bytes}
        # All in the unit that suits the limit, so that they can be compared at a glance.
        in_mb = limit_bytes >= 1_000_000
        told = {
            name.removesuffix("_bytes"): f"{size / 1_000_000:.2f} MB" if in_mb else f"{size / 1_000:.1f} kB"
            for name, size in exact.items()
        }
        super().__init__(**exact, **told, **values)


class DiskFull(TijeraError):
    """There is no room left to keep anything."""

    code = "disk-full"
    title = "The disk is full"
    detail_text = "There is no room left to keep it; what was kept before is there, and nothing was changed."
    remedy_text = "Make room on the disk (History, Clear the rack out, frees some), then do it again."


class FolderUnusable(TijeraError):
    """The data folder is gone, or can't be written."""

    code = "folder-unusable"
    title = "The data folder can't be written"
    detail_text = "Tijera can't write where it keeps your clippings: {why}. Nothing of this last step was kept."
    remedy_text = (
        "See that the folder is there, and that you may write in it; then try again. “tijera doctor” names it."
    )


class StoreBusy(TijeraError):
    """Another program has held the database for longer than is waited for."""

    code = "store-busy"
    title = "The database is busy"
    detail_text = "Another program has had Tijera's database open for writing for more than five seconds."
    remedy_text = "Close what looks into the data folder, such as a backup or a database browser, and try again."


class RecogniserFailed(TijeraError):
    """The recogniser of words broke off."""

    code = "recogniser-failed"
    title = "The words could not be read"
    detail_text = "The recogniser broke off: {why}."
    remedy_text = "The clipping is found by its name, window, day and places all the same."


class LinkNotOpened(TijeraError):
    """A link can't be opened now."""

    code = "link-not-opened"


class LinkGone(LinkNotOpened):
    """It can't be opened any more."""

    code = "link-gone"
    title = "This link can't be opened any more"
    detail_text = "The picture is not shown: {why}."
    remedy_text = "Ask who gave you the address for a new one."


class LinkClosed(LinkNotOpened):
    """Too many wrong passwords."""

    code = "link-closed"
    title = "This link is closed for a while"
    detail_text = "Too many wrong passwords were given; it opens again in {minutes} min."
    remedy_text = "Try again then, or ask who gave you the address."


class LinkWrongPassword(LinkNotOpened):
    """A wrong password."""

    code = "link-wrong-password"
    title = "That is not the password"
    detail_text = "The picture is not shown without its password."
    remedy_text = "Type it again; capitals and small letters are not the same."


class NotTaken(TijeraError):
    """A mail server does not take the message; nothing was sent, and nothing is queued."""

    code = "not-taken"
    title = "The mail server does not take it"
    detail_text = "The server says: {words}"
    remedy_text = "Change the message, or ask who runs the server."


class TakenTooHeavy(NotTaken):
    """It weighs more than the server takes."""

    code = "taken-too-heavy"
    title = "Too heavy for where it goes"
    detail_text = "The message weighs {bytes} on the way. The server says: {words}"
    remedy_text = "Set the limit and make it fit, or send it in two messages."


class SenderNotTaken(NotTaken):
    """The server takes nothing from this address."""

    code = "sender-not-taken"
    title = "The server takes nothing from this address"
    detail_text = "For {sender} the server says: {words}"
    remedy_text = "Correct your own address, or ask who runs the server."


class RecipientNotTaken(NotTaken):
    """The server knows none of the recipients."""

    code = "recipient-not-taken"
    title = "An address is not taken"
    detail_text = "For {address} the server says: {words}"
    remedy_text = "Correct the address."


class InputRefused(TijeraError):
    """What came in can't be taken, or could not be kept whole."""

    code = "input-refused"


class BackupBroken(InputRefused):
    """A backup that can't be restored whole."""

    code = "backup-broken"
    title = "{name} can't be restored"
    detail_text = "It can't be brought back whole: {why}."
    remedy_text = "Nothing was changed. Use another backup, or copy this one again from where it came."


class InputEmpty(InputRefused):
    """Zero bytes."""

    code = "input-empty"
    title = "The file is empty"
    detail_text = "“{name}” has no content (0 bytes)."
    remedy_text = "Choose another file, or save it again in the program that made it."


class InputTooHeavy(InputRefused):
    """More bytes than the guard allows."""

    code = "input-too-heavy"
    title = "The file is too large"
    detail_text = "“{name}” has more than the {most_bytes} bytes that are taken in."
    remedy_text = "Use a smaller file, or raise the guard in the settings."


class PackageRefused(InputRefused):
    """A document that can't be opened or kept whole."""

    code = "package-refused"


class NotAPackage(PackageRefused):
    """Not a zip file."""

    code = "not-a-package"
    title = "This is no file that Tijera can place into"
    detail_text = "The content is neither a document, a spreadsheet nor a message, whatever the name says."
    remedy_text = "Open it in the program that made it and save it as .docx, .odt, .xlsx, .ods or .eml."


class PackageTruncated(PackageRefused):
    """A zip file whose end is missing, or whose directory does not match."""

    code = "package-truncated"
    title = "The file is incomplete"
    detail_text = "The package breaks off or contradicts itself: {why}."
    remedy_text = "Copy or download the file again; this one was cut short or damaged on the way."


class MessageMalformed(PackageRefused):
    """A message whose parts can't be told apart."""

    code = "message-malformed"
    title = "The message can't be read"
    detail_text = "The message could not be taken apart: {why}."
    remedy_text = "Save it again from the mail program that holds it, and open that."


class PackageEncrypted(PackageRefused):
    """A package under a password."""

    code = "package-encrypted"
    title = "The file is encrypted"
    detail_text = "The document is protected by a password and can't be read."
    remedy_text = "Open it in its program, remove the password, save a copy and open that."


class LegacyDocument(PackageRefused):
    """An OLE file from before 2007, perhaps renamed."""

    code = "legacy-document"
    title = "An old .doc file"
    detail_text = "The content is in the old binary format (.doc), whatever the name says."
    remedy_text = "Open it in its program and save it as .docx or .odt."


class PackageSigned(PackageRefused):
    """A package with a digital signature, which any change would break."""

    code = "package-signed"
    title = "The file is signed"
    detail_text = "The document carries a digital signature, which any change would make invalid."
    remedy_text = (
        "Ask for a copy without the signature, or open it all the same and have the finished copy signed again."
    )


class TooManyMembers(PackageRefused):
    """More members than the guard allows."""

    code = "too-many-members"
    title = "Too many parts inside"
    detail_text = "The package holds {count} members, {most} are taken."
    remedy_text = "This is hardly an office document; save it again in the program that made it."


class UnpacksTooLarge(PackageRefused):
    """A member or the whole unpacks to more than the guard allows."""

    code = "unpacks-too-large"
    title = "The file unpacks to far too much"
    detail_text = "“{member}” would unpack to {size_bytes} bytes, {most_bytes} are allowed."
    remedy_text = "This is hardly an office document; don't open it, or save it again in the program that made it."


class MemberNameUnsafe(PackageRefused):
    """A name that leaves the package, or stands twice."""

    code = "member-name-unsafe"
    title = "A part has an unsafe name"
    detail_text = "The member “{member}” has a name that is not allowed: {why}."
    remedy_text = "Save the file again in the program that made it; a sound file has no such names."


class MemberDamaged(PackageRefused):
    """A member whose data do not match their checksum."""

    code = "member-damaged"
    title = "A part of the file is damaged"
    detail_text = "The member “{member}” is damaged: {why}."
    remedy_text = "Copy or download the file again, or open and save it in the program that made it."


class MemberMethod(PackageRefused):
    """A compression method that office packages don't use."""

    code = "member-method"
    title = "Packed in an unusual way"
    detail_text = "The member “{member}” uses compression method {method}; office files use 0 and 8 only."
    remedy_text = "Save the file again in the program that made it."


class PartMissing(PackageRefused):
    """A part that must be there is not."""

    code = "part-missing"
    title = "A part is missing"
    detail_text = "The package lacks “{part}”."
    remedy_text = "Save the file again in the program that made it."


class PartMalformed(PackageRefused):
    """An XML part that can't be parsed."""

    code = "part-malformed"
    title = "A part can't be read"
    detail_text = "“{part}” can’t be read as XML: {why}."
    remedy_text = "Open the file in the program that made it, let it repair it, and save it again."


class DoctypeRefused(PackageRefused):
    """An XML part with a document type declaration or entities."""

    code = "doctype-refused"
    title = "A part carries a document type"
    detail_text = "“{part}” has a DTD or entities, which office files never have and which can be used for attacks."
    remedy_text = "Don't trust this file; ask its sender for one saved by an office program."


class NotADocument(PackageRefused):
    """A package, but not a word-processing document."""

    code = "not-a-document"
    title = "Not a file to place into"
    detail_text = "It is no document, spreadsheet or message that Tijera knows: {why}."
    remedy_text = "Choose a .docx, .odt, .xlsx, .ods or .eml file."


class StructureBroken(PackageRefused):
    """The structural check refused what would have been written."""

    code = "structure-broken"
    title = "The copy would not have been sound"
    detail_text = "The changed part “{part}” did not pass the structural check: {why}. Nothing was written."
    remedy_text = "Choose another place for the picture, and keep the file: its structure is unusual."


class PictureRefused(InputRefused):
    """A picture that can't be taken."""

    code = "picture-refused"


class NotAPicture(PictureRefused):
    """Content that is no known picture format."""

    code = "not-a-picture"
    title = "This is not a picture"
    detail_text = "“{name}” is none of PNG, JPEG, BMP, WebP, TIFF or GIF."
    remedy_text = "Save the picture as PNG and bring that in."


class PictureDamaged(PictureRefused):
    """A picture that breaks off or can't be decoded."""

    code = "picture-damaged"
    title = "The picture is damaged"
    detail_text = "“{name}” can't be read to its end: {why}."
    remedy_text = "Copy the picture again from where it came from, or save it again."


class PictureTooLarge(PictureRefused):
    """More pixels than the guard allows."""

    code = "picture-too-large"
    title = "Too many pixels"
    detail_text = "“{name}” has {width} × {height} px; {most} pixels are taken."
    remedy_text = "Scale it down in the program that made it, or bring in the part that you need."


class StripRefused(InputRefused):
    """A strip of a long page that can't be joined. What was joined before stays as it is."""

    code = "strip-refused"


class StripApart(StripRefused):
    """A strip that has too little in common with the one before."""

    code = "strip-apart"
    title = "Scrolled too far"
    detail_text = "This part of the page has too little in common with the last one; it was not joined."
    remedy_text = "Go back a little, until the part seen last is in view again."


class StripAmbiguous(StripRefused):
    """A strip that would fit at several places."""

    code = "strip-ambiguous"
    title = "The page looks the same at several places"
    detail_text = "Where this part of the page belongs can't be told: {why}. It was not joined."
    remedy_text = "Go back a little, so that something that stands there only once is in view with it."


class StripSize(StripRefused):
    """A strip of another size than those before."""

    code = "strip-size"
    title = "The window's size changed"
    detail_text = "The strips so far are {was} px, this one is {now} px; it was not joined."
    remedy_text = "Bring the window back to its size, or stop here and keep what has been joined."
