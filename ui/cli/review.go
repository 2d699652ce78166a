package cli

import (
	"strings"

	"ziegel/core/address"
	"ziegel/core/review"
)

// review prints what a look through the site's styles points out. args may name a page to keep to.
func (a *app) review(args []string) error {
	e, _, err := a.openWhole()
	if err != nil {
		return err
	}
	var list []review.Remark
	for _, r := range review.Review(e) {
		if len(args) == 0 || strings.Contains(r.Text+" "+strings.Join(r.At, " "), args[0]+"/") ||
			strings.Contains(strings.Join(r.At, " "), "pages/"+args[0]+".yaml") {
			list = append(list, r)
		}
	}
	if len(args) > 0 {
		if _, err := address.FindPage(e, args[0]); err != nil {
			return err
		}
	}
	if a.json {
		if list == nil {
			list = []review.Remark{}
		}
		return a.writeJSON(map[string]any{"remarks": list})
	}
	if len(list) == 0 {
		a.say("every style does something, and nothing is written twice")
		return nil
	}
	for _, r := range list {
		a.say("%s", a.style.Wrap(r.Text+" ["+r.Kind+"]", 3))
		for _, at := range r.At {
			a.say("   %s", a.style.Dim(at))
		}
		if r.Try != "" {
			a.say("   try: %s", r.Try)
		}
	}
	return nil
}
