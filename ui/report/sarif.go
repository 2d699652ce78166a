package report

import (
	"encoding/json"
	"fmt"
	"io"
	"strings"

	"ziegel/core/check"
)

// The parts of SARIF 2.1.0 that a check fills.
type (
	sarifLog struct {
		Schema  string     `json:"$schema"`
		Version string     `json:"version"`
		Runs    []sarifRun `json:"runs"`
	}
	sarifRun struct {
		Tool       sarifTool     `json:"tool"`
		ColumnKind string        `json:"columnKind"`
		Results    []sarifResult `json:"results"`
	}
	sarifTool struct {
		Driver sarifDriver `json:"driver"`
	}
	sarifDriver struct {
		Name    string      `json:"name"`
		Version string      `json:"version"`
		Rules   []sarifRule `json:"rules"`
	}
	sarifRule struct {
		ID               string       `json:"id"`
		ShortDescription sarifMessage `json:"shortDescription"`
		Configuration    struct {
			Level string `json:"level"`
		} `json:"defaultConfiguration"`
	}
	sarifMessage struct {
		Text string `json:"text"`
	}
	sarifResult struct {
		RuleID       string             `json:"ruleId"`
		RuleIndex    int                `json:"ruleIndex"`
		Level        string             `json:"level"`
		Message      sarifMessage       `json:"message"`
		Locations    []sarifLocation    `json:"locations"`
		Suppressions []sarifSuppression `json:"suppressions,omitempty"`
		Properties   map[string]any     `json:"properties,omitempty"`
	}
	sarifLocation struct {
		Physical *sarifPhysical `json:"physicalLocation,omitempty"`
		Logical  []sarifLogical `json:"logicalLocations"`
	}
	sarifPhysical struct {
		Artifact struct {
			URI string `json:"uri"`
		} `json:"artifactLocation"`
		Region *sarifRegion `json:"region,omitempty"`
	}
	sarifRegion struct {
		Line   int `json:"startLine"`
		Column int `json:"startColumn,omitempty"`
	}
	sarifLogical struct {
		Name string `json:"fullyQualifiedName"`
		Kind string `json:"kind"`
	}
	sarifSuppression struct {
		Kind          string `json:"kind"`
		Justification string `json:"justification"`
	}
)

// SARIF writes reports as Static Analysis Results Interchange Format 2.1.0. Accepted findings are results with a
// suppression.
func SARIF(w io.Writer, version string, reports []*check.Report) error {
	run := sarifRun{ColumnKind: "unicodeCodePoints", Results: []sarifResult{}}
	run.Tool.Driver = sarifDriver{Name: "Ziegel", Version: version, Rules: []sarifRule{}}
	index := map[string]int{}
	for i, r := range check.Rules() {
		rule := sarifRule{ID: r.Name, ShortDescription: sarifMessage{r.What}}
		rule.Configuration.Level = string(r.Severity)
		run.Tool.Driver.Rules = append(run.Tool.Driver.Rules, rule)
		index[r.Name] = i
	}
	add := func(page string, f check.Finding) *sarifResult {
		res := sarifResult{RuleID: f.Rule, RuleIndex: index[f.Rule], Level: string(f.Severity),
			Message: sarifMessage{sentence(f)}}
		loc := sarifLocation{Logical: []sarifLogical{{Name: Address(page, f), Kind: "element"}}}
		if f.Cause.Line > 0 {
			p := &sarifPhysical{Region: &sarifRegion{f.Cause.Line, f.Cause.Column}}
			p.Artifact.URI = f.Cause.File
			loc.Physical = p
		}
		res.Locations = []sarifLocation{loc}
		if f.To > 0 {
			res.Properties = map[string]any{"from": f.From, "to": f.To}
		}
		if f.Proved {
			if res.Properties == nil {
				res.Properties = map[string]any{}
			}
			res.Properties["cure"] = f.Cure
		}
		run.Results = append(run.Results, res)
		return &run.Results[len(run.Results)-1]
	}
	for _, r := range reports {
		for _, f := range r.Findings {
			add(r.Page, f)
		}
		for _, f := range r.Accepted {
			add(r.Page, f.Finding).Suppressions = []sarifSuppression{{"external", f.Because}}
		}
	}
	enc := json.NewEncoder(w)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", " ")
	return enc.Encode(sarifLog{"https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json", "2.1.0", []sarifRun{run}})
}

// sentence says a finding with its widths.
func sentence(f check.Finding) string {
	if w := Widths(f); w != "" {
		return w + ": " + f.Text
	}
	return f.Text
}

// Widths writes the span of a finding, "" when it holds at no particular width.
func Widths(f check.Finding) string {
	switch {
	case f.To == 0:
		return ""
	case f.From == f.To:
		return fmt.Sprintf("%d px", f.From)
	}
	return fmt.Sprintf("%d..%d px", f.From, f.To)
}

// Address gives the address of what a finding is about: home/plans.card[2].
func Address(page string, f check.Finding) string {
	where := page
	if f.Where != "" { // a page without names of blocks and parts
		return page + ": " + f.Where
	}
	if f.Block != "" {
		where += "/" + f.Block
	}
	if f.Part != "" && !strings.Contains(f.Part, ">") {
		where += "." + f.Part
		if f.Item > 0 {
			where += fmt.Sprintf("[%d]", f.Item)
		}
	}
	return where
}
