package report_test

import (
	"bytes"
	"encoding/json"
	"encoding/xml"
	"os"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/core/diag"
	"ziegel/core/sweep"
	"ziegel/ui/report"
)

// sample is a check of two pages, with every kind of finding.
func sample() []*check.Report {
	return []*check.Report{
		{Page: "home", From: 240, To: 2560,
			Blocks: []sweep.Stacking{{Name: "plans", Section: "pricing/plans",
				Arrangements: []sweep.Span{{From: 240, To: 611, As: "1+1+1"}, {From: 612, To: 2560, As: "3"}},
				Inside: []sweep.Inside{{Part: "actions", Arrangements: []sweep.Span{{From: 240, To: 2560,
					As: "2"}}}}}},
			Findings: []check.Finding{
				{Rule: "lone-item", Severity: diag.Note, Block: "plans", Part: "card", Item: 3, From: 700, To: 700,
					Text: "alone"},
				{Rule: "overflow-x", Severity: diag.Error, Block: "plans", Part: "card", Item: 2,
					Path: "body > p:nth-child(1)", From: 240, To: 263, Text: `the price is 14 px wider than "its" <card>`, Cause: diag.Place{Position: diag.Position{File: "pages/home.yaml", Line: 41, Column: 3}},
					Cure: "ziegel style home/plans.card min-width=0", Proved: true},
				{Rule: "missing-alt", Severity: diag.Error, Text: "no text </script>"},
			},
			Accepted: []check.Accepted{{Finding: check.Finding{Rule: "seam", Severity: diag.Warning, Block: "plans",
				From: 1, To: 2, Text: "touches"}, Because: "meant so"}}},
		{Page: "courses", From: 240, To: 2560, Blocks: []sweep.Stacking{}, Findings: []check.Finding{}},
	}
}

func validate(t *testing.T, schema string, doc []byte) {
	t.Helper()
	s, err := jsonschema.NewCompiler().Compile(schema)
	require.NoError(t, err)
	v, err := jsonschema.UnmarshalJSON(bytes.NewReader(doc))
	require.NoError(t, err)
	assert.NoError(t, s.Validate(v))
}

func TestJSONFollowsItsPublishedSchema(t *testing.T) {
	one, err := json.Marshal(sample()[0])
	require.NoError(t, err)
	validate(t, "check.schema.json", one)
	all, err := json.Marshal(map[string]any{"pages": sample()})
	require.NoError(t, err)
	validate(t, "check.schema.json", all)
	s, err := jsonschema.NewCompiler().Compile("check.schema.json")
	require.NoError(t, err)
	assert.Error(t, s.Validate(map[string]any{"page": "home"}))
}

func TestSARIFFollowsTheStandard(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, report.SARIF(&out, "1.0", sample()))
	validate(t, "testdata/sarif-2.1.0.schema.json", out.Bytes())
	assert.Contains(t, out.String(), `"fullyQualifiedName": "home/plans.card[2]"`)
	assert.Contains(t, out.String(), `"startLine": 41`)
	assert.Contains(t, out.String(), `"justification": "meant so"`)
	var log struct {
		Runs []struct {
			Tool struct {
				Driver struct{ Rules []struct{ ID string } }
			}
			Results []struct {
				RuleID    string
				RuleIndex int
			}
		}
	}
	require.NoError(t, json.Unmarshal(out.Bytes(), &log))
	require.Len(t, log.Runs[0].Results, 4)
	for _, r := range log.Runs[0].Results {
		assert.Equal(t, r.RuleID, log.Runs[0].Tool.Driver.Rules[r.RuleIndex].ID)
	}
}

func TestJUnitFailsErrorsOnly(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, report.JUnit(&out, sample()))
	var suites struct {
		Tests    int `xml:"tests,attr"`
		Failures int `xml:"failures,attr"`
		Suites   []struct {
			Name  string `xml:"name,attr"`
			Cases []struct {
				Name    string `xml:"name,attr"`
				Failure *struct {
					Text string `xml:",chardata"`
				} `xml:"failure"`
				Skipped *struct{} `xml:"skipped"`
				Out     string    `xml:"system-out"`
			} `xml:"testcase"`
		} `xml:"testsuite"`
	}
	require.NoError(t, xml.Unmarshal(out.Bytes(), &suites))
	assert.Equal(t, 2*len(check.Rules()), suites.Tests)
	assert.Equal(t, 2, suites.Failures)
	for _, c := range suites.Suites[0].Cases {
		switch c.Name {
		case "overflow-x":
			require.NotNil(t, c.Failure)
			assert.Contains(t, c.Failure.Text,
				`home/plans.card[2]: 240..263 px: the price is 14 px wider than "its" <card> (pages/home.yaml:41:3)`)
		case "lone-item":
			assert.Nil(t, c.Failure)
			assert.Contains(t, c.Out, "note: home/plans.card[3]: 700 px: alone")
		case "seam":
			assert.NotNil(t, c.Skipped)
		}
	}
}

func TestHTMLIsOneFile(t *testing.T) {
	var out bytes.Buffer
	list := sample()
	require.NoError(t, report.HTML(&out, []report.PageReport{{Report: list[0],
		HTML: "<p>page</p><script>let x</script>", Ranges: []report.Range{{Name: "phone", To: 599}}},
		{Report: list[1]}}))
	text := out.String()
	assert.NotRegexp(t, `(src|href)="?(https?:)?//`, text)
	assert.Equal(t, 2, strings.Count(text, "</script>"), "what pages say cannot end the script")
	assert.Contains(t, text, "found: 1 block at 2321 widths, 2 errors, 0 warnings, 1 note")
	assert.Contains(t, text, "home/plans.card[2]")
}

func TestWorstBlockComesFirst(t *testing.T) {
	r := sample()[0]
	r.Findings = append(r.Findings, check.Finding{Rule: "seam", Severity: diag.Warning, Block: "foot", Text: "x"})
	var got []string
	for _, f := range report.ByBlock(r) {
		got = append(got, f.Block+" "+f.Rule)
	}
	assert.Equal(t, []string{" missing-alt", "plans overflow-x", "plans lone-item", "foot seam"}, got)
	_, err := os.Stat("check.schema.json")
	assert.NoError(t, err)
}

func TestSpansOfOneElementAreToldTogether(t *testing.T) {
	f := func(part string, from, to int, text string) check.Finding {
		return check.Finding{Rule: "seam", Severity: diag.Warning, Block: "plans", Part: part, From: from,
			To: to, Text: text}
	}
	got := report.Merge([]check.Finding{f("card", 240, 241, "a"), f("price", 300, 300, "x"),
		f("card", 250, 290, "worst"), f("card", 300, 300, "b"), f("card", 301, 301, "b"), f("card", 310, 311, "c"),
		f("card", 320, 320, "d"), {Rule: "brief", Text: "e"}, {Rule: "brief", Text: "f"}})
	require.Len(t, got, 4)
	assert.Equal(t, "240..241, 250..290, 300..301 and 2 more", got[0].Widths())
	assert.Equal(t, "worst", got[0].Text)
	assert.Equal(t, "300", got[1].Widths())
	assert.Empty(t, got[2].Widths())
}
