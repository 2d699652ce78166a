package audit

import "strings"

// reaches says of each rule what it looks at, and what it does not: "RULE | looks at | does not look at".
var reaches = readReaches(`
overflow-x | every box at every width, by the width of the page as a browser scrolls it | what a script widens; frames inside the page
text-spills | texts in boxes of their own, to the right | text in boxes that scroll or clip (text-clipped has those), upwards and downwards (content-hangs-out)
text-clipped | texts that a box with overflow hidden or clip cuts by over 1 px | line clamps, ellipses and boxes that scroll: those are meant so; shapes of clip-path
content-hangs-out | texts and the nearest box around them with a ground, four borders, or a height of its own | pictures that hang out; boxes placed absolutely or moved on purpose; grounds that differ too little to be seen
text-overlaps | the letters of any two texts, without the room that fonts keep around them | letters inside drawings; turned texts count by the rectangle around them
text-covered | the painting order of pictures, frames, grounds, generated boxes, fixed and sticky bars; states at 1280 px | inline drawings, background pictures that are not cover, clip-path and blended boxes: what they hide nobody can tell here
text-on-edge | the same boxes, where they lie under a text that has no ground of its own above them | borders without a ground; edges inside a picture
screen-edge | texts and both edges of the screen | texts in bars that leave the flow; pictures
line-too-long | lines of p, li, dd, blockquote and the like, in letters of that very text | labels, headings, tables
line-too-short | the same texts from six lines on | fewer lines
word-broken | lines that end inside a word without a hyphen, in texts, list items and cells | words that a soft hyphen divides
text-small | texts that show, by their size in CSS px | letters inside pictures
heading-long | headings and the lines of their own words | words in elements of their own inside a heading
lead-over-title | paragraphs after a heading in the same box | texts elsewhere that are larger, such as quotes and figures
type-order | headings of one block, by level | sizes across blocks; headings that are styled texts
target-small | links, buttons, fields and summaries that show, and their neighbours' circles of 24 px | links in sentences; targets that a script makes of other elements
target-overlap | any two of those | one that lies wholly in another: it is above it on purpose
target-touch | the same targets up to 820 px | wider screens; links in sentences
target-close | neighbours under 44 px in the direction in which they stand, up to 820 px | wider screens
lone-item | groups of three like boxes or more, in their rows | groups whose last box fills its row
screen-order | boxes with text in the flow that stand before what is read first | pictures (picture-order has those); what leaves the flow
picture-order | pictures with a text of their own above words read before them | pictures without one: they are not read
off-one-line | the last button and the first price of cards in one row | other parts of cards
sticky-covers | a bar that stays at the top, and what links on the page lead to | links from other pages
navigation-gone | nav elements with two links or more | menus that a script writes; whether an opener works
bar-two-rows | the first bar at the top, 320 to 600 px | bars further down; wider screens
space-missing | the words of blocks that follow each other | distances inside blocks
space-doubled | blocks on one ground, against what is usual on the page | pages with fewer than four such blocks
seam | where the ground changes from block to block | grounds inside blocks
off-lanes | where the words of blocks begin, when three or more agree; on other pages header and footer, too | centered and right-aligned texts; edges over 40 px away
heading-adrift | headings, what ends above them and what they head | headings beside what they head
gaps-uneven | groups of three like boxes or more in one row or column | links of a menu; boxes out of the flow; a distance that is meant to part two groups
heading-skipped | headings in the markup, and those that show at each width | roles and levels given by aria
picture-enlarged | files of pixels with one size | drawings, srcset and video
picture-distorted | pictures and their own ratio | drawings that stretch on purpose (preserveAspectRatio)
picture-cropped | object-fit and object-position of files | background pictures
picture-heavy | the bytes of a file against its largest use | video, fonts
contrast-low | the letters' color and all that is painted below them, light and dark, pictures by their spots; hover, focus and pressed at 1280 px | text in drawings and pictures, blended and filtered grounds, what is disabled
content-hidden | texts that show at some width and not at others | what shows at no width: it is meant for scripts or readers
fit-tight | labels and headings in one line over 40 widths or more | running text
room-small | boxes of a fixed height with text | boxes that scroll
height-cut | bars and blocks on screens 375 px high, 480 to 932 px wide | other heights
overflow-scrollbar | sizes in vw where a scrollbar takes 15 px | scrollbars of boxes inside the page
missing-alt | img elements | role img, background pictures
missing-file | pictures, styles and fonts that the page names | scripts; other hosts are never asked
dead-link | links of a site's content, to pages, blocks and files | whether another host answers
id-twice | ids of the page as it is written | ids that scripts add
form-nowhere | forms without an address, and addresses left empty | whether the address answers
focus-hidden | targets with and without the keyboard's focus: outline, colors, ground, shadow, borders, lines | what a script shows; whether the difference is strong enough (WCAG 2.4.13)
alt-says-picture | the words of alt, in English and German | whether they are true
overlay-thin | the least overlay under which all text over a ground picture can be read, light and dark | pictures whose colors cannot be seen
unsafe-picture | drawings of the site (SVG) that a page shows | drawings that other hosts or foreign pages show
font-missing | font families in the styles of a site | fonts that a reader may have installed
option-idle | options for a range, with the block's content, at five widths of the range | options for all widths: set tells of those
alt-file-name | alt against the name of the file |
letters-missing | the letters of texts against the first family that a page brings, at 1280 px | letters in generated content
two-main-actions | buttons of the main look in one block | buttons across blocks
moves-layout | hover, focus and pressed at 390, 820 and 1280 px, and keyframes | scripts
twice | h1, main, navigation and footer | complementary regions
brief | the wishes of a page's file | whether a block keeps what it promises
height-jump | the height of the page from one width to the next | jumps under a screen
accept-unused | entries of accept |
sample-content | fields, slots and single leaves that still say what a sample says | words copied from a sample by hand, unless a whole entry is
not-modelled | CSS properties and values of the page | what scripts set
replaced-font | families that texts ask for and the page does not bring |
`)

// extent is what a rule looks at and what it does not.
type extent struct{ looks, not string }

func readReaches(text string) map[string]extent {
	out := map[string]extent{}
	for _, line := range strings.Split(strings.TrimSpace(text), "\n") {
		f := strings.SplitN(line, " |", 3)
		out[strings.TrimSpace(f[0])] = extent{strings.TrimSpace(f[1]), strings.TrimSpace(f[2])}
	}
	return out
}
