package publish

import (
	"bytes"
	"context"
	"embed"
	"encoding/base64"
	"errors"
	"fmt"
	"html"
	"html/template"
	"io/fs"
	"regexp"
	"strconv"
	"strings"

	"github.com/yuin/goldmark"
	"github.com/yuin/goldmark/extension"
	"github.com/yuin/goldmark/parser"

	"ojime/internal/bench"
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
	return w.pageOf(webPage{text: a.text, title: a.title, plots: a.plots, pictures: usedBy(a.pictures), prints: a.prints, atMS: w.NowMS()})
}

// webPage is what a page is made of: a text in our own Markdown with its plots and pictures, and the day on which it was written.
type webPage struct {
	text     []byte
	title    string
	plots    []string
	pictures bench.PublishedPictures
	prints   int
	atMS     int64
}

func (w *Tasks) pageOf(p webPage) ([]byte, error) {
	var body bytes.Buffer
	if err := reads.Convert(p.text, &body); err != nil {
		return nil, fmt.Errorf("write “%s” as a page: %w", p.title, err)
	}
	style, err := pageStyle()
	if err != nil {
		return nil, err
	}
	head, rest, _ := strings.Cut(body.String(), "<h2")
	rest = "<h2" + rest
	rest = strings.ReplaceAll(strings.ReplaceAll(rest, "<table>", `<div class="wide" tabindex="0" role="group" aria-label="A table"><table>`), "</table>", "</table></div>")
	rest, shown, err := w.pictured(withPlots(headed(rest), p.plots), p.pictures)
	if err != nil {
		return nil, err
	}
	var out bytes.Buffer
	err = pageLayout.Execute(&out, map[string]any{
		"Title": p.title, "Style": template.CSS(style), "Head": template.HTML(head), "Body": template.HTML(rest), // made of Markdown in which all that was typed is escaped
		"Contents": contentsOf(rest), "Day": say.Day(p.atMS), "Prints": say.Counted(int64(p.prints), "print"),
	})
	return withData(out.Bytes(), shown), err
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

var (
	plotImage   = regexp.MustCompile(`<p><img src="plots/(\d+)\.svg"[^>]*></p>`)
	figuresHead = regexp.MustCompile(`<h3 id="[^"]+">Figures</h3>`)
)

// withPlots puts each plot where the text calls it; in a text of before plots were called, under the heading of the table of the
// same figures.
func withPlots(body string, plots []string) string {
	if plotImage.MatchString(body) {
		return plotImage.ReplaceAllStringFunc(body, func(image string) string {
			n, err := strconv.Atoi(plotImage.FindStringSubmatch(image)[1])
			if err != nil || n < 1 || n > len(plots) {
				return ""
			}
			return plots[n-1]
		})
	}
	at := 0
	return figuresHead.ReplaceAllStringFunc(body, func(head string) string {
		if at >= len(plots) {
			return head
		}
		at++
		return head + "\n" + plots[at-1]
	})
}

var (
	imageRow = regexp.MustCompile(`<p>((?:<img [^>]*>\s*)+)</p>`)
	oneImage = regexp.MustCompile(`<img src="([^"]*)" alt="([^"]*)">`)
)

// pictured puts the pictures that a text calls into its page, each with its caption; one that was erased since says so. Until the
// page is whole they stand there by the hashes of their contents, which are returned beside.
func (w *Tasks) pictured(body string, pictures bench.PublishedPictures) (page string, shown map[string][]byte, broken error) {
	hash := map[string]string{}
	for _, p := range pictures {
		hash[p.Name] = p.SHA256
	}
	shown = map[string][]byte{}
	page = imageRow.ReplaceAllStringFunc(body, func(row string) string {
		var b strings.Builder
		b.WriteString(`<div class="pictures">`)
		for _, m := range oneImage.FindAllStringSubmatch(row, -1) {
			sum := hash[m[1]]
			data, err := w.Store.Photographs().Read(sum)
			switch {
			case sum == "" || errors.Is(err, fs.ErrNotExist):
				fmt.Fprintf(&b, `<figure><figcaption>%s. The picture is not here any more.</figcaption></figure>`, m[2])
			case err != nil:
				broken = err
			default:
				shown[sum] = data
				fmt.Fprintf(&b, `<figure><img src="%s%s" alt="%s"><figcaption>%s</figcaption></figure>`, byHash, sum, m[2], m[2])
			}
		}
		b.WriteString("</div>")
		return b.String()
	})
	return page, shown, broken
}

// byHash stands before the hash of a picture. Nothing that was typed can look like it: the quotes around it are escaped there.
const byHash = "picture:"

// withData puts the pictures themselves where their hashes stand.
func withData(page []byte, shown map[string][]byte) []byte {
	const source = `<img src="`
	size := len(page)
	for _, data := range shown {
		size += len(byJPEG) + base64.StdEncoding.EncodedLen(len(data))
	}
	out := make([]byte, 0, size)
	for {
		before, rest, called := bytes.Cut(page, []byte(source+byHash))
		out = append(out, before...)
		if !called {
			return out
		}
		sum, after, _ := bytes.Cut(rest, []byte(`"`))
		out = append(append(out, source...), byJPEG...)
		out = append(base64.StdEncoding.AppendEncode(out, shown[string(sum)]), '"')
		page = after
	}
}

const byJPEG = "data:image/jpeg;base64,"
