package check

import (
	"slices"

	"ziegel/core/diag"
)

var rules = []rule{overflowX, spill, clipped, hangsOut, overlapping, covered, onEdge, screenEdge,
	longLines, shortLines, brokenWord, smallText, headingLines, leadOverTitle, typeOrder,
	smallTarget, overlappingTargets, touchTargets, closeTargets,
	loneItem, screenOrder, pictureFirst, offLine, stickyCovers, navigationGone, barRows,
	spaceMissing, spaceDoubled, seam, offLanes, adrift, unevenGaps, skippedHeading,
	enlarged, distorted, cropped, squeezed, heavy, lowContrast,
	tableHint, columnStray, wrongWay, hiddenContent, tightFit, smallRoom, heightCut, behindScrollbar}

// RuleNamed gives a rule by its name, one without remedies when there is none.
func RuleNamed(name string) Rule {
	if r := ruleNamed(name); r != nil {
		return r.told()
	}
	for _, r := range contentList {
		if r.Name == name {
			return r
		}
	}
	return Rule{}
}

// ruleNamed gives a rule over layouts, nil when there is none of the name.
func ruleNamed(name string) *rule {
	if i := slices.IndexFunc(rules, func(r rule) bool { return r.name == name }); i >= 0 {
		return &rules[i]
	}
	return nil
}

// Rules lists all rules, those over every width first.
func Rules() []Rule {
	var out []Rule
	for _, r := range rules {
		out = append(out, r.told())
	}
	return append(out, contentList...)
}

// contentList names the rules that hold at no particular width.
var contentList = []Rule{
	{Name: "missing-alt", Severity: diag.Error, What: "a picture has no text for those who cannot see it",
		Looks: "img elements", Not: "role img, background pictures"},
	{Name: "missing-file", Severity: diag.Error, What: "a file that the page needs is not there",
		Looks: "pictures, styles and fonts that the page names", Not: "scripts; other hosts are never asked"},
	{Name: "dead-link", Severity: diag.Error, What: "a link leads nowhere",
		Looks: "links of a site's content, to pages, blocks and files", Not: "whether another host answers"},
	{Name: "id-twice", Severity: diag.Error, What: "an id is on the page more than once",
		Looks: "ids of the page as it is written", Not: "ids that scripts add"},
	{Name: "header-scope", Severity: diag.Warning,
		What:  "header cells of a table do not say whether they head a row or a column",
		Looks: "tables with header cells both above and beside", Not: "tables with headers on one side; cells with an id"},
	{Name: "form-nowhere", Severity: diag.Error, What: "a form has no address to send to",
		Looks: "forms without an address, and addresses left empty", Not: "whether the address answers"},
	{Name: "focus-hidden", Severity: diag.Error,
		What:  "a link, a button or a field looks the same with the keyboard's focus as without it (WCAG 2.4.7), at 390 and 1280 px",
		Looks: "targets with and without the keyboard's focus: outline, colors, ground, shadow, borders, lines",
		Not:   "what a script shows; whether the difference is strong enough (WCAG 2.4.13)"},
	{Name: "alt-says-picture", Severity: diag.Warning,
		What:  "the text of a picture says that it is one, or what it is for, and not what it shows",
		Looks: "the words of alt, in English and German", Not: "whether they are true"},
	{Name: "overlay-thin", Severity: diag.Warning,
		What:  "a ground picture has less over it than its text needs to be read",
		Looks: "the least overlay under which all text over a ground picture can be read, light and dark",
		Not:   "pictures whose colors cannot be seen"},
	{Name: "unsafe-picture", Severity: diag.Warning,
		What:  "a drawing holds scripts, pages or addresses; pages get it without them",
		Looks: "drawings of the site (SVG) that a page shows",
		Not:   "drawings that other hosts or foreign pages show"},
	{Name: "icon-simplified", Severity: diag.Warning,
		What:  "an icon of the site's own loses part of its drawing",
		Looks: "icons in media/icons that a page shows: gradients, text, pictures, style sheets",
		Not:   "what nobody sees: titles, notes of drawing programs"},
	{Name: "font-missing", Severity: diag.Warning, What: "a font that a style names and the site has no file for",
		Looks: "font families in the styles of a site", Not: "fonts that a reader may have installed"},
	{Name: "option-idle", Severity: diag.Warning,
		What:  "an option of a block for a range of widths that changes nothing there",
		Looks: "options for a range, with the block's content, at five widths of the range",
		Not:   "options for all widths: set tells of those"},
	{Name: "alt-file-name", Severity: diag.Warning, What: "the text of a picture is its file name",
		Looks: "alt against the name of the file"},
	{Name: "letters-missing", Severity: diag.Warning, What: "letters that a font of the page does not have",
		Looks: "the letters of texts against the first family that a page brings, at 1280 px",
		Not:   "letters in generated content"},
	{Name: "two-main-actions", Severity: diag.Warning,
		What:  "a block has two main buttons, or some entries of a list have one each and others have not",
		Looks: "buttons of the main look in one block", Not: "buttons across blocks"},
	{Name: "moves-layout", Severity: diag.Warning, What: "a hover, a focus or an animation moves boxes",
		Looks: "hover, focus and pressed at 390, 820 and 1280 px, and keyframes", Not: "scripts"},
	{Name: "twice", Severity: diag.Warning, What: "a second h1, main, navigation or footer",
		Looks: "h1, main, navigation and footer", Not: "complementary regions"},
	{Name: "brief", Severity: diag.Warning, What: "what the page was to have and has not, or the reverse",
		Looks: "the wishes of a page's file", Not: "whether a block keeps what it promises"},
	{Name: "height-jump", Severity: diag.Note,
		What:  "the page becomes more than a screen higher or lower from one width to the next",
		Looks: "the height of the page from one width to the next", Not: "jumps under a screen"},
	{Name: "accept-unused", Severity: diag.Note, What: "an entry of accept in the site's file that meets nothing",
		Looks: "entries of accept"},
	{Name: "page-heavy", Severity: diag.Error, What: "a page is heavier than the budget of the site",
		Looks: "built pages with their styles and fonts, before they are published", Not: "pictures and films"},
	{
		Name:     "not-looked-at",
		Severity: diag.Note,
		What:     "a block has changed since the last check, before it is published",
		Looks:    "blocks of sites that were checked at all",
		Not:      "sites that never were",
	},
	{Name: "no-description", Severity: diag.Note, What: "a page has no description for search results",
		Looks: "pages, in todo and before they are published", Not: "whether it is a good one"},
	{
		Name:     "same-title",
		Severity: diag.Note,
		What:     "two pages have one title",
		Looks:    "pages, in todo and before they are published",
		Not:      "titles that mean the same",
	},
	{Name: "same-description", Severity: diag.Note, What: "two pages have one description",
		Looks: "pages, in todo and before they are published", Not: "descriptions that mean the same"},
	{Name: "long-title", Severity: diag.Note, What: "a title is longer than lists of results show",
		Looks: "titles with the name of the site, by characters", Not: "how wide the letters are"},
	{Name: "long-description", Severity: diag.Note, What: "a description is longer than lists of results show",
		Looks: "descriptions, by characters", Not: "how wide the letters are"},
	{
		Name:     "no-title",
		Severity: diag.Note,
		What:     "a page has no title",
		Looks:    "pages, in todo and before they are published",
		Not:      "whether it is a good one",
	},
	{
		Name:     "comment",
		Severity: diag.Note,
		What:     "a client's comment is open",
		Looks:    "reviews/, in todo and before pages are published",
		Not:      "comments that are done",
	},
	{Name: "sample-content", Severity: diag.Note, What: "a field still shows the sample",
		Looks: "fields, slots and single leaves that still say what a sample says",
		Not:   "words copied from a sample by hand, unless a whole entry is"},
	{Name: "day-past", Severity: diag.Warning, What: "the last day of something has passed",
		Looks: "values such as {until: 2026-05-01}, on the day of the build", Not: "days in texts, and {date: ...}"},
	{Name: "words-aside", Severity: diag.Note, What: "words of a writer that belong to no field",
		Looks: "what `ziegel words --take` kept aside in blocks", Not: "content that another section has parked"},
	{Name: "untranslated", Severity: diag.Note,
		What:  "texts without a translation, or with one of what they said before",
		Looks: "words/ of each language of the site", Not: "whether a translation is a good one, and samples"},
	{Name: "not-modelled", Severity: diag.Note, What: "CSS that the layout does not follow",
		Looks: "CSS properties and values of the page", Not: "what scripts set"},
	{Name: "replaced-font", Severity: diag.Note, What: "a font that the page names and does not bring",
		Looks: "families that texts ask for and the page does not bring"},
}
