package former_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"ziegel/core/former"
)

func TestTextsOfEarlierVersions(t *testing.T) {
	for old, now := range map[string]string{
		"{leading.body}":                        "{line-height.body}",
		"1px solid {color.plain.on-accent}":     "1px solid {color.plain.accent-ink}",
		"{color.on-accent}":                     "{color.accent-ink}",
		"calc(var(--leading-lead) * 2)":         "calc(var(--line-height-lead) * 2)",
		"color: var(--on-accent)":               "color: var(--accent-ink)",
		"--split-left: var(--_words)":           "--half-left: var(--_words)",
		"leading. A kite, {braced}, on-accent.": "leading. A kite, {braced}, on-accent.",
		"var(--on-accents)":                     "var(--on-accents)",
	} {
		assert.Equal(t, now, former.Text(old))
		assert.Equal(t, now, former.Text(now), "what is named as now stays")
	}
	assert.Equal(t, "letter-spacing.label", former.Token("tracking.label"))
	assert.Equal(t, "color.deep.accent-ink", former.Token("color.deep.on-accent"))
	assert.Equal(t, "radius.card", former.Token("radius.card"))
	assert.JSONEq(t, `{"line-height": {"body": {"$value": "{line-height.lead}"}}, "color": {"plain": {"accent-ink": {}}}}`,
		string(former.Tokens([]byte(`{"leading": {"body": {"$value": "{leading.lead}"}}, "color": {"plain": {"on-accent": {}}}}`))))
	assert.Equal(t, `<p class="halves x"><i class="picture soft-corners">split</i>`,
		former.HTML(`<p class="split x"><i class="picture framed">split</i>`))
	assert.Equal(t, ".halves > .soft-corners, .splits { line-height: var(--line-height-body) }",
		former.CSS(".split > .framed, .splits { line-height: var(--leading-body) }"))
}

func TestNamesOfEarlierVersions(t *testing.T) {
	now, ok := former.Part("hero/beside", "split")
	assert.True(t, ok)
	assert.Equal(t, "halves", now)
	_, ok = former.Part("features/mine", "split")
	assert.False(t, ok, "a section of the site's own keeps its names")
	now, ok = former.Field("pricing/plans", "emphasis")
	assert.True(t, ok)
	assert.Equal(t, "raised", now)
	assert.Equal(t, []string{"split at phone"}, former.Before("halves at phone"))
	assert.Equal(t, []string{"frame[2]:hover"}, former.Before("figure[2]:hover"))
	assert.Equal(t, []string{"styles"}, former.Before("looks"))
	assert.Equal(t, []string{"emphasis"}, former.Before("raised"))
	assert.Empty(t, former.Before("heading"))
}
