package mesh

import (
	"bufio"
	"bytes"
	"errors"
	"fmt"
	"io"
	"strings"
)

// tags reads the opening tags of an XML part one after the other, without
// keeping any of it. A model of a million triangles has two million tags, and
// encoding/xml takes ten times as long over them. Text, comments and processing
// instructions are passed over; a document type is refused, since nothing in a
// model needs one.
type tags struct {
	from  *bufio.Reader
	line  int
	depth int
	text  []byte // of the tag in hand, without the angle brackets
	name  []byte // its name, without a prefix
	rest  []byte // its attributes
	alone bool   // whether it closes itself
}

// mostTag is the longest tag that is read: real ones have some hundred bytes.
const mostTag = 64 << 10

func newTags(from io.Reader) *tags {
	return &tags{from: bufio.NewReaderSize(from, mostTag), line: 1}
}

// next finds the next opening tag; io.EOF at the end of a whole part.
func (t *tags) next() error {
	if t.alone {
		t.depth--
		t.alone = false
	}
	for {
		if err := t.skipTo('<'); err != nil {
			if err == io.EOF && t.depth != 0 {
				return errors.New("ends before it is closed; it was cut off")
			}
			return err
		}
		if err := t.take(); err != nil {
			return err
		}
		switch t.text[0] {
		case '/':
			if t.depth--; t.depth < 0 {
				return fmt.Errorf("closes %.40q, which was never opened", t.text[1:])
			}
		case '?', '!':
		default:
			return t.open()
		}
	}
}

func (t *tags) skipTo(end byte) error {
	for {
		chunk, err := t.from.ReadSlice(end)
		t.line += bytes.Count(chunk, []byte("\n"))
		if err != bufio.ErrBufferFull {
			return err
		}
	}
}

// take reads the tag after an angle bracket into text.
func (t *tags) take() error {
	t.text = t.text[:0]
	for {
		chunk, err := t.from.ReadSlice('>')
		t.line += bytes.Count(chunk, []byte("\n"))
		t.text = append(t.text, chunk...)
		if err != nil && err != bufio.ErrBufferFull {
			return fmt.Errorf("ends within a tag: %w", noEOF(err))
		}
		if bytes.HasPrefix(t.text, []byte("!--")) {
			return t.comment()
		}
		if bytes.HasPrefix(t.text, []byte("!")) {
			return fmt.Errorf("holds %.20q, which a model has no need of", t.text)
		}
		if len(t.text) > mostTag {
			return fmt.Errorf("has a tag of more than %d KiB; it is no model", mostTag>>10)
		}
		// A bracket within quotes does not end the tag.
		if err == nil && bytes.Count(t.text, []byte(`"`))%2 == 0 && bytes.Count(t.text, []byte(`'`))%2 == 0 {
			t.text = t.text[:len(t.text)-1]
			if len(t.text) == 0 {
				return errors.New("has a tag without a name")
			}
			return nil
		}
	}
}

// comment passes over what is left of one.
func (t *tags) comment() error {
	for tail := t.text; !bytes.HasSuffix(tail, []byte("-->")); {
		chunk, err := t.from.ReadSlice('>')
		t.line += bytes.Count(chunk, []byte("\n"))
		if err != nil && err != bufio.ErrBufferFull {
			return fmt.Errorf("ends within a comment: %w", noEOF(err))
		}
		tail = append(tail[max(0, len(tail)-2):], chunk...)
	}
	t.text = append(t.text[:0], '!')
	return nil
}

func noEOF(err error) error {
	if err == io.EOF {
		return io.ErrUnexpectedEOF
	}
	return err
}

func (t *tags) open() error {
	t.depth++
	body := t.text
	if t.alone = bytes.HasSuffix(body, []byte("/")); t.alone {
		body = body[:len(body)-1]
	}
	end := bytes.IndexAny(body, " \t\r\n")
	if end < 0 {
		end = len(body)
	}
	t.name, t.rest = local(body[:end]), body[end:]
	if len(t.name) == 0 {
		return errors.New("has a tag without a name")
	}
	return nil
}

// local is a name without its prefix.
func local(name []byte) []byte {
	return name[bytes.LastIndexByte(name, ':')+1:]
}

// attr is the value of an attribute of the tag in hand, empty without one. It
// is valid until the next tag.
func (t *tags) attr(name string) []byte {
	for rest := t.rest; ; {
		rest = afterSpace(rest)
		equals := bytes.IndexByte(rest, '=')
		if equals < 0 {
			return nil
		}
		key := rest[:equals]
		for len(key) > 0 && key[len(key)-1] <= ' ' {
			key = key[:len(key)-1]
		}
		key = local(key)
		rest = afterSpace(rest[equals+1:])
		if len(rest) == 0 || (rest[0] != '"' && rest[0] != '\'') {
			return nil
		}
		end := bytes.IndexByte(rest[1:], rest[0])
		if end < 0 {
			return nil
		}
		if string(key) == name {
			return rest[1 : 1+end]
		}
		rest = rest[end+2:]
	}
}

func afterSpace(text []byte) []byte {
	for len(text) > 0 && text[0] <= ' ' {
		text = text[1:]
	}
	return text
}

var entities = strings.NewReplacer("&lt;", "<", "&gt;", ">", "&quot;", `"`, "&apos;", "'", "&amp;", "&")

// word is an attribute as text, its entities put back.
func (t *tags) word(name string) string { return entities.Replace(string(t.attr(name))) }
