package stress_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"ziegel/core/check"
	"ziegel/core/stress"
	"ziegel/core/sweep"
	"ziegel/internal/testsite"
)

func TestRoomCountsLetters(t *testing.T) {
	if testing.Short() {
		t.Skip("takes over a second")
	}
	e := testsite.Demo(t)
	p := e.Site.Page("home")
	b := e.Site.Block(p, "plans")
	fields := stress.TextFields(e, b)
	for _, want := range []string{"heading", "items[2].title", "items[1].points[2]", "items[3].link.label"} {
		assert.Contains(t, fields, want)
	}
	list, err := stress.RoomFor(e, stress.TextOf{Page: p, Block: b, Field: "items[2].title"},
		[]stress.AtWidth{{Range: "phone", Width: 390}, {Range: "desktop", Width: 1440}}, nil)
	require.NoError(t, err)
	for _, r := range list {
		assert.Equal(t, 13, r.Now)
		assert.Equal(t, 1, r.Lines)
		assert.Greater(t, r.Fits, r.Now, r.Range)
		assert.Less(t, r.Fits, 60, r.Range)
		assert.Greater(t, r.Holds, r.Fits)
		assert.NotEmpty(t, r.Then)
	}
	tries := 0
	_, err = stress.RoomFor(e, stress.TextOf{Page: p, Block: b, Field: "items[2].title"},
		[]stress.AtWidth{{Range: "phone", Width: 390}},
		func() bool { tries++; return tries < 4 })
	assert.ErrorIs(t, err, stress.ErrStopped)
	assert.Equal(t, 4, tries, "nothing is tried after a stop")
	_, err = stress.RoomFor(e, stress.TextOf{Page: p, Block: b, Field: "nothing"}, []stress.AtWidth{{Width: 390}}, nil)
	assert.Error(t, err)
}

func TestStressFindsWhatOwnContentHides(t *testing.T) {
	if testing.Short() {
		t.Skip("sweeps with fifteen kinds of content")
	}
	e := testsite.Demo(t)
	p := e.Site.Page("home")
	from, to := 300, 330
	list := stress.Stress(e, p, &check.Report{}, sweep.Widths{From: from, To: to}, nil)
	names, _ := stress.Strains()
	require.Len(t, list, len(names))
	by := map[string]stress.Strained{}
	for _, s := range list {
		by[s.Name] = s
		for _, f := range s.Findings {
			assert.GreaterOrEqual(t, f.From, from)
			assert.LessOrEqual(t, f.To, to)
		}
	}
	require.NotEmpty(t, by["long-word"].Findings)
	require.NotEmpty(t, by["text-200"].Findings)
	assert.Empty(t, by["one-letter"].Findings)
	again := stress.Stress(e, p, &check.Report{Findings: by["long-word"].Findings}, sweep.Widths{From: from, To: to},
		nil)
	for _, s := range again {
		if s.Name == "long-word" {
			assert.Empty(t, s.Findings, "what the page has anyway is no news")
		}
	}
	stopped := stress.Stress(e, p, &check.Report{}, sweep.Widths{From: from, To: to}, func() bool { return false })
	assert.Empty(t, stopped, "no kind is begun after a stop")
	steps := 0
	stopped = stress.Stress(e, p, &check.Report{}, sweep.Widths{From: from, To: to},
		func() bool { steps++; return steps < 5 })
	require.Len(t, stopped, 1)
	assert.True(t, stopped[0].Stopped)
}
