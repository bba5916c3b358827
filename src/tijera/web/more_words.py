"""The words of what leaves, is found again and is taken at set times; as in `words`."""

from __future__ import annotations

MORE_WORDS = """
AcceptIn.looks | ids of looks | ["9c1d2e3f4a5b"]
address | where somebody is written to | "help-desk@quillhaven.example"
ArrivedOut.at | when it arrived, ISO 8601 | "2026-03-12T11:05:00+00:00"
ArrivedOut.number | its number in the mailbox | 1
ArrivedOut.plain | its plain text | "Good morning."
arrived | what lies in the mailbox, the newest first | []
attached | files that hang on it | []
attached_plain | files that hang on it | []
before | from before this moment on, ISO 8601 | "2026-03-12T11:05:00+00:00"
changed | whether it shows anything else now | true
conduct | how the postbox behaves | "usual"
copy_of | the number of the message that it is a copy of | null
DispatchOut.name | its subject | "Help desk: Engine log"
DispatchOut.refused | addresses that were not taken, each with the server's words | []
dispatch | the id of a message that was sent or waits | "9c1d2e3f4a5b"
ending | the ending of the file's name | "docx"
HappeningOut.at | when it happened, ISO 8601 | "2026-03-12T11:05:00+00:00"
HappeningOut.detail | as what it left, or to whom | "document"
HappeningOut.handover | the id of what left | "9c1d2e3f4a5b"
HappeningOut.kind | what happened | "taken"
HappeningOut.words | the name of what it happened to, or what was done | "Tide board, berths"
has_password | whether a password is kept for it | false
has_postbox | whether the stand-in for a mail server is there | true
host | the name of the mail server | "mail.quillhaven.example"
is_letter | whether it can be sent from here | true
is_own | whether the user has set it up | false
keep_old_in | files in which the old pictures stay | []
WorkOut.last | what left of it last | null
look | the id of a look at today's screen | "9c1d2e3f4a5b"
LookOut.marks | how many marks it has | 2
LookOut.places | the files in which it stands | []
mailbox | the name of a mailbox | "help-desk"
MailboxOut.words | what it is called | "Help desk"
mailboxes | all of them, with what lies in them | []
marks_apart | marks round which it shows something else, by their ids | []
media_type | the kind of file, as RFC 6838 names kinds | "image/png"
message_id | what tells the message from all others (RFC 5322) | "<0a1b@quillhaven.example>"
next_at | when it is tried again, ISO 8601 | null
old_height | the old picture's height in pixels | 336
old_width | the old picture's width in pixels | 560
order | the number of the work order | 4417
password | what the user signs in with | ""
pictures_shown | how many pictures its page shows | 1
port | the port of the mail server | 587
reached | recipients who have it | []
recipients | whom it goes to | ["help-desk@quillhaven.example"]
WorkOut.recipients | whom a message goes to | ""
saved | somebody who is written to often, one by one | []
SaveManyIn.format | the kind of picture | "png"
security | how the line to the mail server is kept from others | "starttls"
tried | how often it was tried | 1
tries | the last tries, with the server's words | []
TryOut.at | when, ISO 8601 | "2026-03-12T11:05:00+00:00"
TryOut.kind | how it went | "taken"
TryOut.words | the server's own words | "250 2.0.0 Message taken"
used | addresses that messages went to, the last used first | []
user | who signs in at the mail server; empty for nobody | "watch"
worked_at | when it was worked on last, ISO 8601 | "2026-03-12T11:05:00+00:00"
DispatchOut.destination | the id of the message that it was made of | "9c1d2e3f4a5b"
PlacedInOut.destination | the id of a file | "9c1d2e3f4a5b"
StandsOut.destination | the id of a file | "9c1d2e3f4a5b"
StandsOut.placement | the id of the placement there | "9c1d2e3f4a5b"
DispatchOut.state | where the message is | "sent"
person | who is signed in, by name; null where the server is one person's own | "Marit"
changes | how many changes can't be undone any more | 12
ClearingOut.names | the names of the first of them | ["Tide board, berths"]
older_days | older than so many days | 30
pinned | whether it stays on top of the rack, and is never cleared out | false
ends_on | the last day on which it can be opened; null for no end | null
ends_at | the moment from which it can't be opened any more; null for no end | null
most_views | how often it can be opened; null for as often as one likes | null
views | how often it was opened | 3
seen_at | when it was opened last; null for never | "2026-03-12T12:20:00+00:00"
closed_s | how long it is closed because wrong passwords were given, in seconds | 0.0
only_here | whether only this computer reaches the port | false
is_on | whether links can be made | true
trouble | why it does not listen; empty where all is well | ""
with_password | whether the last one had a password | false
link | the id of a link | "8c21f0a94be3"
LinkSetupIn.address | what others reach, without what a link adds | "http://10.20.0.14:7480"
LinkSetupOut.address | what others reach, without what a link adds | "http://10.20.0.14:7480"
LinkSetupIn.port | the port of this computer at which links are answered | 7480
LinkSetupOut.port | the port of this computer at which links are answered | 7480
LinkIn.password | who opens it has to give this; empty for none | ""
LinkOut.address | the whole address; null where links are off | "http://10.20.0.14:7480/Vn0xq3JtQyC7dS8kLw2hRzEoUa1iMb5f"
LinkOut.state | open, ended, used-up or withdrawn | "open"
reads_words | whether words on pictures are read and searched | true
unread | how many pictures have yet to be read | 0
FoundOut.boxes | rectangles in pixels of that picture | [{"x": 90, "y": 130, "width": 42, "height": 12}]
SlipOut.shown | where words that were looked for stand on it; null where none does | null
round | the rounds by which it was taken; null for a clipping that somebody took | null
every_min | how many minutes lie between two | 10
RoundIn.at | times as people write them; empty where minutes are given | "8:00, 12:30"
RoundOut.at | times of the clock on the wall | ["08:00", "12:30"]
RoundIn.until | what the wall shows at the end, without a zone | "2026-03-12T18:00"
until | the moment at which they end | "2026-03-12T18:00:00.000000+00:00"
begun_at | when they were begun | "2026-03-12T12:05:00.000000+00:00"
only_changed | whether only is kept what changed | false
RoundOut.model | the clipping whose area it is | "9b3f0c2a7d11"
RoundOut.taken | how many were taken and kept | 12
RoundOut.same | how often nothing was kept because nothing had changed | 3
RoundOut.gaps | times at which nothing could be taken, and why | []
GapOut.first | the first time of the gap | "2026-03-12T13:05:00.000000+00:00"
GapOut.last | the last time of the gap | "2026-03-12T13:35:00.000000+00:00"
GapOut.why | why nothing could be taken | "Its window, “Tide board”, is not open any more."
RoundOut.state | going, stopped or ended | "going"
OpenedCopyOut.destination | the id under which it was opened | "5f0c8a2be914"
OpenedCopyOut.view | how it is shown: galley, grid or message | "galley"
"""
