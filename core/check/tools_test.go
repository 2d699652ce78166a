package check_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/check"
	"ziegel/core/site"
	"ziegel/internal/testsite"
)

func TestDistancesMarkWhatIsUnlikeTheOthers(t *testing.T) {
	block := func(pad string) string { return `<section style="padding:` + pad + ` 20px"><p>Words</p></section>` }
	l, _ := testsite.HTML(t, block("20px")+block("20px")+block("20px")+block("90px")+
		`<section style="padding:20px"><ul style="display:grid;gap:30px;margin:0;padding:0"><li class=c><h3 style="margin:0">a</h3><p>b</p></li><li class=c><h3 style="margin:0">a</h3><p>b</p></li></ul></section>`)
	outliers, inside, apart := 0, false, false
	for _, d := range check.Distances(l, []site.Range{{Name: "phone", To: 599}}, 320, 400) {
		if d.Outlier != "" {
			outliers++
			assert.InDelta(t, 110, d.Most, 6) // from letter to letter
		}
		inside = inside || d.Kind == "inside" && d.From == "h3" && d.To == "p" && d.Most == 0
		apart = apart || d.Kind == "apart" && d.Most == 30
	}
	assert.Equal(t, 2, outliers)
	assert.True(t, inside)
	assert.True(t, apart)
}
