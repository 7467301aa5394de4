package publish

import (
	"bytes"
	"context"
	"embed"
	"encoding/base64"
	"fmt"
	"html"
	"html/template"
	"regexp"
	"strings"

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"
	"github.com/yuin/goldmark/parser"

	"ojime/internal/say"
)

//go:embed page
var pageFiles embed.FS

var pageLayout = template.Must(template.ParseFS(pageFiles, "page/page.html"))

// reads the write-up's own Markdown: headings with ids to be led to, and tables. Raw HTML is not let through.
var reads = goldmark.New(goldmark.WithExtensions(extension.Table), goldmark.WithParserOptions(parser.WithAutoHeadingID()))

// Page is the write-up as one HTML file that needs nothing else: our own type, plots as SVG, light and dark, for a screen, a
// phone and paper, without a script.
func (w *Tasks) Page(ctx context.Context, reviewID string) ([]byte, error) {
	a, err := w.article(ctx, reviewID)
	if err != nil {
		return nil, err
	}
	var plots []string
	for _, c := range a.contests {
		plots = append(plots, dotPlot(c))
	}
	return pageOf(a.text, a.title, plots, a.prints, w.NowMS())
}

// pageOf is a text with its plots as a page of the day on which it was written.
func pageOf(text []byte, title string, plots []string, prints int, atMS int64) ([]byte, error) {
	var body bytes.Buffer
	if err := reads.Convert(text, &body); err != nil {
		return nil, fmt.Errorf("write “%s” as a page: %w", title, err)
	}
	style, err := pageStyle()
	if err != nil {
		return nil, err
	}
	head, rest, _ := strings.Cut(body.String(), "<h2")
	rest = "<h2" + rest
	rest = strings.ReplaceAll(strings.ReplaceAll(rest, "<table>", `<div class="wide" tabindex="0" role="group" aria-label="A table"><table>`), "</table>", "</table></div>")
	rest = withPlots(headed(rest), plots)
	var out bytes.Buffer
	err = pageLayout.Execute(&out, map[string]any{
		"Title": title, "Style": template.CSS(style), "Head": template.HTML(head), "Body": template.HTML(rest), // made of Markdown in which all that was typed is escaped
		"Contents": contentsOf(rest), "Day": say.Day(atMS), "Prints": say.Counted(int64(prints), "print"),
	})
	return out.Bytes(), err
}

// pageStyle is the style sheet with its type in it.
func pageStyle() (string, error) {
	style, err := pageFiles.ReadFile("page/page.css")
	if err != nil {
		return "", err
	}
	text := string(style)
	for _, font := range []string{"next", "mono"} {
		data, err := pageFiles.ReadFile("page/" + font + ".woff2")
		if err != nil {
			return "", err
		}
		text = strings.Replace(text, "{{"+font+"}}", base64.StdEncoding.EncodeToString(data), 1)
	}
	return text, nil
}

var cellOfHead = regexp.MustCompile(`<th([^>]*)></th>`)

// headed gives empty corners of tables no heading: a heading without a word helps nobody who listens.
func headed(body string) string { return cellOfHead.ReplaceAllString(body, "<td$1></td>") }

// content is a heading to be led to.
type content struct{ ID, Text string }

var chapter = regexp.MustCompile(`<h2 id="([^"]+)">(.*?)</h2>`)

func contentsOf(body string) (out []content) {
	for _, m := range chapter.FindAllStringSubmatch(body, -1) {
		out = append(out, content{m[1], html.UnescapeString(m[2])})
	}
	return out
}

var figuresHead = regexp.MustCompile(`<h3 id="[^"]+">Figures</h3>`)

// withPlots puts the plot of each comparison under its heading, before the table of the same figures.
func withPlots(body string, plots []string) string {
	at := 0
	return figuresHead.ReplaceAllStringFunc(body, func(head string) string {
		if at >= len(plots) {
			return head
		}
		at++
		return head + "\n" + plots[at-1]
	})
}
