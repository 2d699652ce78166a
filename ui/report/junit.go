package report

import (
	"encoding/xml"
	"fmt"
	"io"
	"strings"

	"ziegel/core/check"
	"ziegel/core/diag"
)

type (
	junitSuites struct {
		XMLName  xml.Name     `xml:"testsuites"`
		Name     string       `xml:"name,attr"`
		Tests    int          `xml:"tests,attr"`
		Failures int          `xml:"failures,attr"`
		Skipped  int          `xml:"skipped,attr"`
		Suites   []junitSuite `xml:"testsuite"`
	}
	junitSuite struct {
		Name     string      `xml:"name,attr"`
		Tests    int         `xml:"tests,attr"`
		Failures int         `xml:"failures,attr"`
		Skipped  int         `xml:"skipped,attr"`
		Cases    []junitCase `xml:"testcase"`
	}
	junitCase struct {
		Class   string        `xml:"classname,attr"`
		Name    string        `xml:"name,attr"`
		Failure *junitFailure `xml:"failure"`
		Skipped *junitSkipped `xml:"skipped"`
		Out     string        `xml:"system-out,omitempty"`
	}
	junitFailure struct {
		Type    string `xml:"type,attr"`
		Message string `xml:"message,attr"`
		Text    string `xml:",chardata"`
	}
	junitSkipped struct {
		Message string `xml:"message,attr"`
	}
)

// JUnit writes reports as JUnit XML: a suite for each page, a case for each rule. A rule with findings of severity
// error fails; what is lighter is its output. Rules whose findings are all accepted are skipped.
func JUnit(w io.Writer, reports []*check.Report) error {
	all := junitSuites{Name: "ziegel check"}
	for _, r := range reports {
		suite := junitSuite{Name: r.Page}
		for _, rule := range check.Rules() {
			c := junitCase{Class: r.Page, Name: rule.Name}
			var failed, told []string
			for _, f := range r.Findings {
				if f.Rule != rule.Name {
					continue
				}
				line := fmt.Sprintf("%s: %s", Address(r.Page, f), sentence(f))
				if !f.Cause.IsZero() {
					line += " (" + f.Cause.String() + ")"
				}
				if f.Severity == diag.Error {
					failed = append(failed, line)
				} else {
					told = append(told, string(f.Severity)+": "+line)
				}
			}
			because := ""
			for _, f := range r.Accepted {
				if f.Rule == rule.Name {
					because = f.Because
				}
			}
			switch {
			case len(failed) > 0:
				c.Failure = &junitFailure{Type: rule.Name, Message: failed[0], Text: strings.Join(failed, "\n")}
				suite.Failures++
			case because != "" && len(told) == 0:
				c.Skipped = &junitSkipped{"accepted: " + because}
				suite.Skipped++
			}
			c.Out = strings.Join(told, "\n")
			suite.Tests++
			suite.Cases = append(suite.Cases, c)
		}
		all.Tests, all.Failures, all.Skipped = all.Tests+suite.Tests, all.Failures+suite.Failures,
			all.Skipped+suite.Skipped
		all.Suites = append(all.Suites, suite)
	}
	if _, err := io.WriteString(w, xml.Header); err != nil {
		return err
	}
	enc := xml.NewEncoder(w)
	enc.Indent("", " ")
	if err := enc.Encode(all); err != nil {
		return err
	}
	_, err := io.WriteString(w, "\n")
	return err
}
