package cli

import (
	"ziegel/core/compose"
	"ziegel/stock"
)

// shelf is the site around us, else one with nothing in it: for looking through the library.
func (a *app) shelf() (*compose.Env, error) {
	if _, err := a.find(); err == nil || a.siteDir != "" {
		e, _, err := a.open()
		return e, err
	}
	e, problems, err := compose.Shelf(stock.Files)
	if err != nil {
		return nil, err
	}
	return e, problems.Err()
}
