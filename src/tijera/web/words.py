"""What fields and values of the HTTP interface mean: a word, what it means wherever it stands, an example as JSON.

`Kind.field` is for the few that mean something of their own.
"""

from __future__ import annotations

WORDS = """
abilities | what the source can do, one by one | []
actions | what keys do, with the key that each has | []
after | look on from this cell: sheet, row and column | "0,4,1"
after_text | the text of the paragraph before the place | "Keep clear of the crane"
align | at which side of its place it stands | "centre"
allowed | whether words from the window's title may leave | true
along_outline | whether text runs along a freehand outline | false
area | a rectangle of the frame, in its pixels | {"x": 90, "y": 130, "width": 420, "height": 260}
areas | rectangles in clipping pixels | []
at | a point in clipping pixels | [40, 60]
attachments | what hangs on the message | []
available | whether it can be used here and now | true
base | the size of the whole area as it is turned, in pixels | {"width": 420, "height": 260}
beside | a line of text beside the picture; empty for none | "Read at 09.15"
blocks | what stands in it, in order | []
body | what stands in the body | {"spots": ["b.0"], "blocks": []}
border | the crop without its empty border; null where there is none | null
bottom | at the lower side | 0
bound | what it was fitted into where it stands | {"width_emu": 5760720, "height_emu": 8892540, "rule": "fit"}
bound_by | what decided the size: place, natural, height or given | "place"
box | a rectangle in pixels of the screen | {"x": 60, "y": 40, "width": 640, "height": 420}
MarkOut.box | left, top, right and bottom in clipping pixels | [10, 10, 60, 50]
boxes | what hangs on the sheet already | []
brightness | lighter above 0, darker below, in percent | 0
by_day | whether the rack is shown by day | false
by_px | how far to scroll, down above 0 | 240
bytes | a weight in bytes | 48213
can | whether it can | true
can_scroll | whether its content scrolls | true
caption | what follows the number of its caption; empty for none | "Depth at berth 4"
caption_above | whether the caption stands above the picture | false
cc | who gets a copy | "crew@quillhaven.example"
choices | what can be chosen | []
clipping | the id of a clipping | "5f0c8a2be914"
clippings | ids of clippings | ["5f0c8a2be914"]
code | a stable name of the problem | "spot-unknown"
colour | a colour's name, or its sRGB value | "ink"
colours | every colour that marks have | []
column | a column, counted from 0 | 1
column_span | over how many columns it goes | 1
columns | widths of columns | {"usual_emu": 609600, "own": []}
columns_emu | the widths of its columns, in EMU | [5760720]
content | what is in it | null
content_only | without the bars and frame of the window | false
contrast | more above 0, less below, in percent | 0
count | how many there are in all | 12
crop | what is shown of it; the rest is hidden | {"x": 0, "y": 0, "width": 420, "height": 260}
CropWire.left | hidden at this side, as a share | 0
dash | solid, dashed or dotted | "solid"
default | the usual value | "F"
degrees | turned clockwise by so many degrees | 0
delay_seconds | how long the delay before freezing is | 4
depth | 0 is the window at the top | 0
derived | what follows from its anchors | []
description | the alternative text | "Tide board, outer quay"
destination | an opened file | null
detail | what happened and why | "The document has no place “b.99” that can take a picture."
do | which edit this is | "move"
does | what it does | "freeze the screen"
doors | what would help, with real figures | []
dx | to the right, in clipping pixels | 12
dy | down, in clipping pixels | -4
earlier | an earlier version of this file in which clippings stand; null for none | null
edge | the line round it and its shadow | {"weight_pt": 0, "colour": "ink", "dash": "solid", "shadow_pt": 0}
edit | what is done | {"do": "move", "ids": ["m1"], "dx": 12, "dy": -4}
em_px | the em size of the smallest text, in clipping pixels | 13.5
enlarged | whether it is larger than its natural size | false
exact | take the options as they are given | false
fields | the header fields, in their order | []
file_bytes | what the written file weighs | 1843220
first | how many come before this page | 0
fixed | keys that can't be changed | []
flipped | mirrored left to right | false
follows | what stands directly before the place | "paragraph"
footer | what stands in the footer | null
form | how it is set: number, choice, switch, colour, text | "number"
format | the ending of the file's kind | "png"
found | how many there are, on all pages | 12
RenewedOut.found | how many places were found again | 3
frame | the id of a frozen screen | "a1b2c3d4e5f6"
frozen_columns | columns that stay while it is scrolled | 0
frozen_rows | rows that stay while it is scrolled | 1
gesture | how it is drawn | "drag"
grade | how the text reads: fine, small, weak or none | "fine"
grey | without colour | false
ground | the colour where there is no picture; null for none | null
ground_version | changes whenever the picture under all windows does | "7d1f"
grows_row | whether its row is made as high as it is | false
handover | the id of something that left | "77aa0c1d2e3f"
has_page | whether there is a page to look at | true
has_pointer | whether it came with the mouse pointer | true
header | what stands in the header | null
height | in pixels | 260
height_emu | in EMU; 914 400 are an inch | 2880000
height_px | in pixels | 260
hidden | whether it is hidden there | false
id | what it is asked for by | "5f0c8a2be914"
ids | what they are asked for by | ["m1"]
instead | what to do instead | "Draw a region on it."
is_covered | whether other windows lie over it | false
is_number | whether the cell holds a number | true
is_turned | whether it is turned or mirrored | false
is_whole | whether the source gave it whole, though covered | false
item_boxes | where each of its items stands | []
items | what it offers | ["Save log"]
job | the id of long work | "c0ffee123456"
joined | what became of the strip: first, new, same or full | "new"
keep_at_once | whether what was drawn goes into the chosen place when the pointer is let go | true
key | the key; null for none | "F"
keys | keys by what they do; null switches one off | {}
kind | which kind it is | "region"
kinds | every kind of mark | []
label | what it is called | "Crew handbook"
last | the last one | 40
layout | how it stands and what stands with it | null
least | the smallest value | 4
left | at the left side | 0
legend | whether its pennants' lines follow as a list | false
SheetOut.legend | the pennants' lines in order | []
PlacementOut.legend | the pennants' lines in order | []
level | of a heading, from 1; 0 for none | 0
limit | what it may weigh, with its unit; null for no limit | "2 MB"
limit_bytes | what it may weigh; null for no limit | 2000000
lines | whether it may have several lines | false
listed | what hangs on it where pictures show | []
listed_plain | what hangs on it where they don't | []
live | whether it shows what is there now | true
lost | what is not in the newer version any more | []
made_at | when, in UTC | "2026-03-12T12:00:00.000000+00:00"
margin | round it, with its unit; "usual" for that of the place | "3 mm"
marks | marks in their order | []
SuggestedOut.marks | the crop round the marks; null where there are none | null
member | the part of the file that holds it | "word/media/image1.png"
menu | the menu that is open; null for none | null
menus | the heads of its menus | []
merged | cells that are one | []
monitors | the monitors, where they stand | []
more | whether the text goes on behind this stretch | false
most | how many at the most | 100
OptionOut.most | the largest value | 72
most_px | how far it scrolls | 1800
name | what it is called | "Tide board, outer quay"
name_pattern | how clippings are named by themselves | "{window} {date} {time}"
newest | the clipping that came last; null for none | null
note | what should be known about it; null for nothing | null
number | its number in its row; null for none | 1
options | its options by name | {"size_pt": 9}
outline | the points of a freehand outline; null for none | null
own | those that differ: number and size in EMU | []
page | the id of a long page | "c0ffee123456"
page_height_emu | the page's height in EMU | 10692130
page_width_emu | the page's width in EMU | 7560310
paler | towards white, in percent | 0
panes | rectangles found in the picture | []
PanesOut.cells | cells of tables among them: offered after rows and columns | []
path | where the file lies on this computer | "/home/harbour/Crew handbook.docx"
pictures | pictures that stand in it already | []
place | whether it lands in the chosen place as well | false
place_width_emu | the column that it is measured for, in EMU | 5760720
placed | the clippings that stand in the shown file | []
placement | the id of a placed clipping; null for none | "0a1b2c3d4e5f"
placements | the clippings that stand in it | []
places | in how many places it stands | 1
plain | its words where no HTML is shown | "Good morning"
pointer | whether the mouse pointer is in the picture | false
FreezeIn.pointer | where the pointer is; null for unknown | null
FrameOut.pointer | where the pointer's tip is; null for nowhere | null
points | anchors in clipping pixels | [[10, 10], [60, 50]]
ppi | pixels kept for each placed inch | 181.4
pressures | how hard the pen was pressed at each point, 0 to 1 | []
print_friendly | a dark screen made light | false
quarters | quarter turns clockwise | 0
record_bytes | what it takes in the file, with what belongs to it | 48341
redo | what redo would do; null for nothing | null
remedy | what to do about it | "List the places again and choose one of them."
rest_bytes | what all but the pictures weighs | 31200
right | at the right side | 0
room | margins beside the picture, in clipping pixels | {"left": 0, "top": 0, "right": 0, "bottom": 0}
row | a row, counted from 0 | 4
row_span | over how many rows it goes | 1
rows | its rows | []
rule | how its width was found: fit, fill or given | "fit"
same | whether it is this very file | false
say | what counts of it where the file has to become lighter | "matters-more"
says | the text on it; null for none | null
scale | how large its pixels are shown, 1 is as taken | 1
scale_factor | pixels of the screen for each CSS pixel | 1.5
scroll_bar | where a hand can scroll it; null where nothing scrolls | null
scrolled_px | how far it is scrolled | 0
section | the section that it lies in, counted from 0 | 0
sections | the sections of the text | []
sender | the user's own address | "watch@quillhaven.example"
shadow_pt | how far its shadow falls, in points | 0
sheet | a sheet, counted from 0 | 0
sheets | its sheets in order | []
shown | whether it shows | true
shown_emu | how large it is shown: width and height in EMU | []
signed | accept that a signature will no longer hold | false
single_letters | whether keys without Ctrl or Alt work | true
slips | what hangs there, the newest first | []
source | where pictures are taken from | "desk"
spot | the id of a place | "b.24"
DestinationOut.spot | the place that waits for a clipping; null for none | null
spot_height_emu | the most that it may be high there, in EMU | 8892540
spot_text | what stands before the place | "4.2 Low water at the outer quay"
spots | ids of places | ["b.0"]
OutlineOut.spots | every place by its id | {}
stacked | below each other, not beside | true
stand | how it stands there | "lines"
stands | how a picture can stand there, the usual way first | ["lines", "word"]
state | same, changed or gone | "same"
status | the status of the answer | 404
subject | what it is about | "Tide table"
taken_at | when, in UTC | "2026-03-12T12:00:00.000000+00:00"
takes_pictures | whether its body can show pictures | true
with_own | whether the file's own pictures pay too | false
text | its words | "Low water at nine"
text_height_emu | the height of the text on a page, in EMU | 8892540
text_pt | how large the smallest text is there, in points | 6.1
times_used | how often it is shown | 1
title | a short name | "Tide board, outer quay"
Problem.title | what is wrong, in a few words | "There is no such place"
to | where to | "top"
LetterWire.to | who gets it | "harbour@quillhaven.example"
to_clipboard | whether what is taken goes to the clipboard too | false
tones | how light, how pale, how grey | {"brightness": 0, "contrast": 0, "paler": 0, "grey": false, "print_friendly": false}
top | at the upper side | 0
touch | points along which it is taken hold of | []
touch_closed | whether those go round | false
turn | mirrored, turned, straightened | {"flipped": false, "quarters": 0, "degrees": 0}
type | what kind it is | "image/png"
Problem.type | which problem it is, as a reference (RFC 9457) | "/problems/spot-unknown"
undo | what undo would take back; null for nothing | "Crop Tide board"
unit | what it is counted in | "pt"
used_columns | how many columns hold something | 6
used_rows | how many rows hold something | 63
usual_emu | the size of those that have none of their own, in EMU | 609600
value | the value | 9
values | the values that the words are made of | {}
version | changes whenever what it shows does | "0.0.420.260"
view | how its places are shown: galley, grid or message | "galley"
weight_pt | how thick, in points | 1
what | what it was | "document"
where | in which room | "Take"
why_not | why it can't be used; empty where it can | ""
width | in pixels | 420
AdjustIn.width | fit, fill, a length, or a share such as 50 % | "60 mm"
width_emu | in EMU; 914 400 are an inch | 5760720
width_px | in pixels | 420
widths_emu | the widths that the place has, in EMU | [5760720]
window | a window's id or title; null for none | "tide"
windows | the open windows | []
words | what is looked for | "tide board"
x | from the left | 90
x_emu | from the left, in EMU | 0
y | from above | 130
y_emu | from above, in EMU | 0
added | the ids of the marks that an edit made | []
alike | the group whose clippings have one scale; null for none | null
already | how many stand in the newer version themselves | 0
caption_number | what stands before its caption | "Figure 3:"
examples | names of the made-up files | ["Crew handbook.docx"]
free_width_emu | the width that the place offers and does not impose, in EMU; null for none | null
grows_to_emu | how high its row may be made, in EMU; null for not | null
has_legend | whether its pennants say something | false
has_outline | whether it has a freehand outline | false
held_back | words of the window's title that stay here; null for none | null
inset_px | where the crop's corner lies on the finished picture | [0, 0]
keeps_scale | whether another crop keeps its scale | false
leaves_as | the alternative text that leaves | "Tide board, outer quay"
letter | what a new message says; null for one from outside | null
margin_emu | round it, in EMU; null for that of the place | null
mat_version | changes whenever the picture beneath the marks does | "as-taken"
missing | signs that the typeface lacks | ""
outer | pixels of the finished picture | {"width": 420, "height": 260}
picture | the address of the picture that is laid on; null for none | null
pointer_hot | where in the pointer's picture its tip is; null for no pointer | null
px_per_pt | pixels of the finished picture for each point in its place | 4.2
rank | the order in which things came, the newest highest | 12
sealed | whether a mail server signed its body | false
spot_width_emu | the width of the place, in EMU | 5760720
svg | the mark as it is drawn, as SVG | "<path/>"
whole | without its crop | false
CellOut.content | what is in the cell | {"spots": [], "blocks": []}
ChoiceOut.value | what is chosen | "ink"
DoorOut.name | which door: crop, place, natural or file | "crop"
FieldOut.value | what the field says | "Tide table"
KindOut.options | its options, with their bounds | []
MarkOut.says | the text on it; empty for none | ""
MarkOut.derived | what follows from its anchors, by name | {}
OptionOut.form | how it is set: amount, choice, switch, colour or words | "amount"
OrderEdit.to | front, back, up or down | "front"
PlacementOut.layout | how it stands and what stands with it | {"stand": "lines", "align": "centre"}
LiveWindowOut.content | where its content is, without its frame | {"x": 62, "y": 70, "width": 636, "height": 388}
SectionOut.header | what stands in the header | "Crew handbook"
SectionOut.footer | what stands in the footer | ""
SheetOfGridOut.rows | heights of rows | {"usual_emu": 190500, "own": []}
SourceOut.live | how it shows what is there now: windows, picture, video or none | "windows"
SourceOut.abilities | what the source can do, by ability | {}
SpotOut.kind | where the place lies: body, cell, sheet or message | "body"
keeps_fitting | whether clippings that are placed later are made to fit at once | true
hidden_share | the share of a picture's area that is cropped away where it is shown, 0 to 1 | 0.25
was_bytes | what it weighed before it was made lighter; null where it was not | 732366
as_opened | whether as it was when the file was first opened | false
share | the share of its width and height in pixels that is saved | 1.0
density_ppi | pixels per inch that the file states; null for those of the screen | 144.0
png_bytes | what it would weigh as PNG | 20400
density_chosen | whether the density was chosen, and holds for any size; else it follows the size, so that that on paper stays | false
jpeg_smears | whether words would be harder to read on the JPEG | false
jpeg_bytes | what it would weigh as JPEG | 27900
only_propose | whether only is said what would change | false
as_taken | whether as it was before anything was given up | false
second | the id of the second message | "5f0c8a2be914"
"""
