package bench

import (
	"fmt"
	"regexp"
	"strings"
)

// numberUnit is a number with its unit behind it: 2 px.
var numberUnit = regexp.MustCompile(`^(-?[0-9]+(?:[.,][0-9]+)?) ?([^0-9\s=][^=]*)$`)

// inBrackets is a value with its unit in brackets: soft [px].
var inBrackets = regexp.MustCompile(`^(.*?) ?\[([^\[\]]*)\]$`)

// ParseOptions reads named values of settings, with semicolons between them: blur = 2 px; grey level = 4;
// edges = soft [px]. A unit follows a number, or stands in brackets.
func ParseOptions(text string) (Options, error) {
	out := Options{}
	for part := range strings.SplitSeq(text, ";") {
		if strings.TrimSpace(part) == "" {
			continue
		}
		name, value, said := strings.Cut(part, "=")
		o := Option{Name: strings.TrimSpace(name), Value: strings.TrimSpace(value)}
		if !said || o.Name == "" {
			return nil, fmt.Errorf("%.40q names no value; write name = value unit, such as blur = 2 px", strings.TrimSpace(part))
		}
		if m := inBrackets.FindStringSubmatch(o.Value); m != nil {
			o.Value, o.Unit = strings.TrimSpace(m[1]), strings.TrimSpace(m[2])
		} else if m := numberUnit.FindStringSubmatch(o.Value); m != nil {
			o.Value, o.Unit = m[1], strings.TrimSpace(m[2])
		}
		out = append(out, o)
	}
	return out, nil
}

// Text writes the options so that ParseOptions reads the same: what would be read otherwise stands with
// its unit in brackets. The marks that part them are left out of names and values.
func (o Options) Text() string {
	words := make([]string, len(o))
	plain := strings.NewReplacer(";", ",", "=", ":", "[", "(", "]", ")", "\n", " ")
	for i, option := range o {
		name, value, unit := plain.Replace(option.Name), plain.Replace(option.Value), plain.Replace(option.Unit)
		words[i] = strings.TrimSpace(name + " = " + value)
		if back, err := ParseOptions(strings.TrimSpace(words[i] + " " + unit)); err == nil && len(back) == 1 && back[0] == (Option{name, value, unit}) {
			words[i] = strings.TrimSpace(words[i] + " " + unit)
			continue
		}
		words[i] += " [" + unit + "]"
	}
	return strings.Join(words, "; ")
}
