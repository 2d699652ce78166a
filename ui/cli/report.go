package cli

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"ziegel/core/build"
	"ziegel/core/check"
	"ziegel/core/site"
	"ziegel/ui/report"
)

// reportForms are the suffixes of report files.
var reportForms = []string{".html", ".json", ".sarif", ".xml"}

// checkReportName refuses a name before any work is done.
func checkReportName(file string) error {
	for _, s := range reportForms {
		if file == "" || strings.EqualFold(filepath.Ext(file), s) {
			return nil
		}
	}
	return fmt.Errorf("--report %s: a report is a file that ends in %s", file, strings.Join(reportForms, ", "))
}

// writeReport writes reports in the form that the file's suffix asks for.
func (a *app) writeReport(file string, list []*check.Subject, reports []*check.Report) error {
	var out bytes.Buffer
	var err error
	switch strings.ToLower(filepath.Ext(file)) {
	case ".json":
		enc := json.NewEncoder(&out)
		enc.SetEscapeHTML(false)
		enc.SetIndent("", " ")
		err = enc.Encode(jsonOf(reports))
	case ".sarif":
		err = report.SARIF(&out, version, reports)
	case ".xml":
		err = report.JUnit(&out, reports)
	case ".html":
		var pages []report.PageReport
		if pages, err = pictured(list, reports); err == nil {
			err = report.HTML(&out, pages)
		}
	}
	if err != nil {
		return err
	}
	if err := a.save(file, out.Bytes()); err != nil {
		return err
	}
	a.talkf("wrote %s (%d kB)", file, (out.Len()+999)/1000)
	return nil
}

// jsonOf gives the document of a check: that of the page, or of all pages.
func jsonOf(reports []*check.Report) any {
	if len(reports) == 1 {
		return report1(reports[0])
	}
	all := make([]*check.Report, len(reports))
	for i, r := range reports {
		all[i] = report1(r)
	}
	return map[string]any{"pages": all}
}

// pictured puts every page into one piece, to be shown beside what was found on it.
func pictured(list []*check.Subject, reports []*check.Report) ([]report.PageReport, error) {
	var files build.Files
	var out []report.PageReport
	for i, r := range reports {
		s := list[i]
		p := report.PageReport{Report: report1(r)}
		ranges := site.DefaultRanges
		var err error
		if s.Env != nil {
			ranges = s.Env.Site.Ranges
			if files == nil {
				files, _ = build.Build(s.Env, build.Options{})
			}
			p.HTML, err = build.Single(s.Prepared.Page.Path, string(files[s.Prepared.Page.Path].Data), files.Read)
		} else {
			var data []byte
			if data, err = os.ReadFile(r.Page); err == nil {
				dir := filepath.Dir(r.Page)
				p.HTML, err = build.Single("page.html", string(data), func(name string) ([]byte, bool) {
					data, err := site.ReadIn(dir, name) // nothing that lies elsewhere goes into a report
					return data, err == nil
				})
			}
		}
		if err != nil {
			return nil, err
		}
		for _, x := range ranges {
			p.Ranges = append(p.Ranges, report.Range{Name: x.Name, From: x.From, To: x.To})
		}
		out = append(out, p)
	}
	return out, nil
}
