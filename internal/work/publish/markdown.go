package publish

import (
	"fmt"
	"regexp"
	"strings"
	"text/template"
	"text/template/parse"
)

// paragraphs is text of the reviewer's own, with its lines, ready for Markdown.
type paragraphs string

// special are the characters that Markdown or HTML would read as more than
// themselves.
var special = strings.NewReplacer(`\`, `\\`, "`", "\\`", "*", `\*`, "_", `\_`, "[", `\[`, "]", `\]`, "<", "&lt;", ">", "&gt;", "|", `\|`, "~", `\~`)

// lineStart is what would make a heading, a list or a rule of a line.
var lineStart = regexp.MustCompile(`^(\s*)([#+=-]|\d+[.)])`)

// inline is a value as one line of text that means nothing to Markdown.
func inline(v any) string {
	if ready, ok := v.(paragraphs); ok {
		return string(ready)
	}
	return special.Replace(strings.Join(strings.Fields(fmt.Sprint(v)), " "))
}

// typed is what the reviewer wrote, its paragraphs and lines kept, or a fallback.
func typed(text, fallback string) paragraphs {
	if strings.TrimSpace(text) == "" {
		text = fallback
	}
	lines := strings.Split(strings.ReplaceAll(text, "\r\n", "\n"), "\n")
	for i, line := range lines {
		lines[i] = lineStart.ReplaceAllString(special.Replace(strings.TrimSpace(line)), `$1\$2`)
	}
	return paragraphs(strings.Join(lines, "\n"))
}

// escaping makes every value that a template writes pass through inline, as
// html/template does for HTML: none can be forgotten.
func escaping(t *template.Template) *template.Template {
	for _, one := range t.Templates() {
		if one.Tree != nil {
			escapeNodes(one.Root)
		}
	}
	return t
}

func escapeNodes(list *parse.ListNode) {
	if list == nil {
		return
	}
	for _, node := range list.Nodes {
		switch n := node.(type) {
		case *parse.ActionNode:
			if len(n.Pipe.Decl) == 0 {
				n.Pipe.Cmds = append(n.Pipe.Cmds, &parse.CommandNode{NodeType: parse.NodeCommand, Args: []parse.Node{parse.NewIdentifier("inline")}})
			}
		case *parse.IfNode:
			escapeNodes(n.List)
			escapeNodes(n.ElseList)
		case *parse.RangeNode:
			escapeNodes(n.List)
			escapeNodes(n.ElseList)
		case *parse.WithNode:
			escapeNodes(n.List)
			escapeNodes(n.ElseList)
		}
	}
}
