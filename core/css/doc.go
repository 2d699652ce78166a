// Package css turns HTML and stylesheets into computed styles: parsing after CSS Syntax 3, Selectors 4, the cascade
// of CSS Cascade 5 with layers, Media Queries 4, size container queries, custom properties, and the math of CSS
// Values 4.
//
// A [Document] is read once and never changes. A [Styler] answers "what is the style of this element here", and keeps
// what does not depend on the width; one Styler belongs to one goroutine. What a page uses and the engine does not
// model is told by [Document.Unsupported], never guessed.
package css
