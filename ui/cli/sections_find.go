package cli

import (
	"ziegel/core/project"
	"ziegel/stock"
)

// shelf is the site around us, else one with nothing in it: for looking through the library.
func (a *app) shelf() (*project.Project, error) {
	if _, err := a.find(); err == nil || a.siteDir != "" {
		e, _, err := a.open()
		return e, err
	}
	e, problems, err := project.Shelf(stock.Files)
	if err != nil {
		return nil, err
	}
	return e, problems.Err()
}
