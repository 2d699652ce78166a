package compose

import (
	"encoding/json"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"golang.org/x/net/html"

	"ziegel/core/library"
	"ziegel/core/markup"
	"ziegel/core/project"
)

// addresses are properties whose value is what an element leads to or shows, not what it says.
var addresses = []string{"item", "url", "image", "sameAs"}

func (t *thing) add(name string, value any) { t.props = append(t.props, prop{name, value}) }

func (t *thing) has(name string) bool {
	return slices.ContainsFunc(t.props, func(p prop) bool { return p.name == name })
}

// complete reports whether an item has what it needs, after what is incomplete in it has been left out.
func (t *thing) complete() bool {
	t.props = slices.DeleteFunc(t.props, func(p prop) bool {
		inner, ok := p.value.(*thing)
		return ok && !inner.complete()
	})
	return !slices.ContainsFunc(library.Meanings[t.kind].Needs, func(name string) bool { return !t.has(name) })
}

// MarshalJSON writes an item as JSON-LD 1.1; a property with several values is a list.
func (t *thing) MarshalJSON() ([]byte, error) {
	var b strings.Builder
	kind, err := json.Marshal(t.kind)
	if err != nil {
		return nil, err
	}
	b.WriteString(`{"@type":` + string(kind))
	done := map[string]bool{}
	for _, p := range t.props {
		if done[p.name] {
			continue
		}
		done[p.name] = true
		var values []any
		for _, q := range t.props {
			if q.name == p.name {
				values = append(values, q.value)
			}
		}
		var value any = values
		if len(values) == 1 {
			value = values[0]
		}
		data, err := json.Marshal(value)
		if err != nil {
			return nil, err
		}
		b.WriteString("," + strconv.Quote(p.name) + ":" + string(data))
	}
	b.WriteString("}")
	return []byte(b.String()), nil
}

// silent takes the meaning off an element and what is in it: what a sample says is no data.
func silent(n *html.Node) {
	markup.Each(n, func(x *html.Node) { markup.Take(x, "data-means") })
}

// means reads what the elements of a block mean, by their marks: data-means="FAQPage" begins an item,
// "mainEntity Question" one that is a property of the item around it, "name" says the element's text of it.
func (f *filler) means(n *html.Node, of *thing) {
	if words, ok := markup.Attr(n, "data-means"); ok {
		pending := ""
		for _, w := range strings.Fields(words) {
			if !unicode.IsUpper(rune(w[0])) {
				f.say(of, pending, n)
				pending = w
				continue
			}
			t := &thing{kind: w}
			if of == nil || pending == "" {
				f.c.things = append(f.c.things, t)
			} else {
				if w == "ListItem" {
					t.add("position", len(of.props)+1)
				}
				of.add(pending, t)
			}
			of, pending = t, ""
		}
		f.say(of, pending, n)
	}
	for k := n.FirstChild; k != nil; k = k.NextSibling {
		if k.Type == html.ElementNode {
			f.means(k, of)
		}
	}
}

// plain gives the text of an element without its emphasis.
func plain(n *html.Node) string {
	var b strings.Builder
	for x := range n.Descendants() {
		if x.Type == html.TextNode {
			b.WriteString(x.Data)
		}
	}
	return b.String()
}

// say gives an item the property that an element is.
func (f *filler) say(of *thing, name string, n *html.Node) {
	if of == nil || name == "" {
		return
	}
	if slices.Contains(addresses, name) {
		for _, key := range []string{"href", "src"} {
			if to, ok := markup.Attr(n, key); ok && to != "#" && to != "" {
				of.add(name, f.whole(to))
			}
		}
		return
	}
	text := strings.Join(strings.Fields(plain(n)), " ")
	if amount, currency := markup.Value(n, "data-"+library.PartAmount), markup.Value(n,
		"data-"+library.PartCurrency); name == "price" &&
		currency != "" {
		of.add(name, amount)
		of.add("priceCurrency", currency)
		return
	}
	if name == "price" {
		if amount, currency, ok := priceIn(text, f.c.Env.Site.Language); ok {
			of.add(name, amount)
			of.add("priceCurrency", currency)
		}
		return
	}
	if text != "" {
		of.add(name, text)
	}
}

// currencies are signs that mean one currency everywhere (ISO 4217). A dollar, a crown and a yen are one of a region
// only, and are read by the language of the site.
var currencies = map[string]string{"€": "EUR", "£": "GBP", "zł": "PLN", "Kč": "CZK", "₹": "INR", "₺": "TRY",
	"₪": "ILS", "₩": "KRW", "₴": "UAH", "Fr.": "CHF"}

var regional = map[string]map[string]string{
	"$":  {"en-US": "USD", "en-CA": "CAD", "fr-CA": "CAD", "en-AU": "AUD", "en-NZ": "NZD", "es-MX": "MXN"},
	"kr": {"sv": "SEK", "da": "DKK", "nb": "NOK", "nn": "NOK", "no": "NOK", "is": "ISK"},
	"¥":  {"ja": "JPY", "zh": "CNY"},
	"R$": {"pt": "BRL"},
}

var priced = regexp.MustCompile(`^(\D*?)\s*(\d[\d., ' ]*\d|\d)(?:,[-–])?\s*(\D*)$`)

// priceIn reads a text that is an amount and its currency, and nothing else: of "from 85 €" it says nothing.
func priceIn(text, language string) (amount, currency string, ok bool) {
	m := priced.FindStringSubmatch(text)
	if m == nil {
		return "", "", false
	}
	sign := strings.TrimSpace(m[1] + m[3])
	currency = currencies[sign]
	if currency == "" {
		currency = regional[sign][language]
		if short, _, found := strings.Cut(language, "-"); currency == "" && found {
			currency = regional[sign][short]
		}
	}
	isCode := currency == "" && len(sign) == 3 && sign == strings.ToUpper(sign) && sign[0] >= 'A' && sign[0] <= 'Z'
	if isCode {
		currency = sign
	}
	value, _, fine := numberIn(m[2])
	return strconv.FormatFloat(value, 'f', -1, 64), currency, fine && currency != ""
}

// first is the page that a site opens with.
const first = "home"

// data gives the structured data of a page as an element of its head, nil when there is none: who made the site on
// its first page, and what the blocks mean.
func (c *composer) data() *html.Node {
	s := c.Env.Site
	var list []*thing
	maker := &thing{kind: "Organization"}
	if s.Name != "" {
		maker.add("name", s.Name)
	}
	if s.Address != "" {
		maker.add("url", s.Address+"/")
		maker.add("logo", s.Address+"/"+TouchIcon)
	}
	open := c.Env.Openings(c.Page)
	if len(open) > 0 {
		maker.kind = "LocalBusiness" // of organizations, those that have hours
	}
	for _, o := range open {
		at := &thing{kind: "OpeningHoursSpecification"}
		for _, day := range o.Days {
			at.add("dayOfWeek", "https://schema.org/"+day)
		}
		at.add("opens", o.Opens)
		at.add("closes", o.Closes)
		maker.add("openingHoursSpecification", at)
	}
	if c.Page.Name == first && s.Address != "" || len(open) > 0 {
		list = append(list, maker)
	}
	var questions *thing
	for _, t := range c.things {
		if t.kind == "Article" && maker.complete() {
			t.add("author", maker)
			t.add("publisher", maker)
		}
		if t.kind == "FAQPage" { // a page has one
			if questions != nil {
				questions.props = append(questions.props, t.props...)
				continue
			}
			questions = t
		}
		list = append(list, t)
	}
	list = slices.DeleteFunc(list, func(t *thing) bool { return !t.complete() })
	if len(list) == 0 || c.Page.Name == project.Lost {
		return nil
	}
	text, err := json.Marshal(map[string]any{"@context": "https://schema.org", "@graph": list})
	if err != nil {
		return nil
	}
	return markup.With(markup.Element("script", "type", "application/ld+json"), markup.Text(string(text)))
}
