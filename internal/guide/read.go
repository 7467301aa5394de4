package guide

import (
	"bytes"
	"cmp"
	"fmt"
	"go/ast"
	"go/parser"
	"go/printer"
	"go/token"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"reflect"
	"slices"
	"strings"
)

// ReadCore reads what the core says of its own functions: each that others may call, in words and with what it takes and gives.
// Dir is the folder of the core.
func ReadCore(dir string) ([]Computation, error) {
	out := []Computation{}
	err := filepath.WalkDir(dir, func(at string, d fs.DirEntry, err error) error {
		if err != nil || !d.IsDir() || at == dir || d.Name() == "testdata" {
			return err
		}
		found, err := readPackage(at)
		out = append(out, found...)
		return err
	})
	slices.SortFunc(out, func(a, b Computation) int { return strings.Compare(a.Name, b.Name) })
	return out, err
}

// reading is a package on the way: its functions and the fields of its types.
type reading struct {
	name   string
	set    *token.FileSet
	funcs  []*ast.FuncDecl
	fields map[string]*ast.StructType
	says   map[string]string
}

func readPackage(dir string) (out []Computation, err error) {
	r := reading{name: path.Base(filepath.ToSlash(dir)), set: token.NewFileSet(), fields: map[string]*ast.StructType{}, says: map[string]string{}}
	files, err := os.ReadDir(dir)
	if err != nil {
		return nil, err
	}
	for _, f := range files {
		if !strings.HasSuffix(f.Name(), ".go") || strings.HasSuffix(f.Name(), "_test.go") {
			continue
		}
		file, err := parser.ParseFile(r.set, filepath.Join(dir, f.Name()), nil, parser.ParseComments)
		if err != nil {
			return nil, fmt.Errorf("read what %s says of itself: %w", f.Name(), err)
		}
		r.add(file)
	}
	for _, f := range r.funcs {
		out = append(out, Computation{Name: r.name + "." + f.Name.Name, Package: r.name, Says: paragraph(f.Doc.Text()), Form: r.form(f), Takes: r.list(f.Type.Params), Gives: r.list(f.Type.Results)})
	}
	return out, nil
}

func (r *reading) add(file *ast.File) {
	for _, decl := range file.Decls {
		switch d := decl.(type) {
		case *ast.FuncDecl:
			if d.Recv == nil && d.Name.IsExported() && d.Doc != nil {
				r.funcs = append(r.funcs, d)
			}
		case *ast.GenDecl:
			for _, spec := range d.Specs {
				if t, is := spec.(*ast.TypeSpec); is {
					r.says[t.Name.Name] = paragraph(cmp.Or(t.Doc.Text(), d.Doc.Text()))
					if s, is := t.Type.(*ast.StructType); is {
						r.fields[t.Name.Name] = s
					}
				}
			}
		}
	}
}

// paragraph is a comment as text that runs on.
func paragraph(text string) string {
	parts := strings.Split(strings.TrimSpace(text), "\n\n")
	for i, p := range parts {
		parts[i] = strings.Join(strings.Fields(p), " ")
	}
	return strings.Join(parts, "\n\n")
}

// form is how a function is called.
func (r *reading) form(f *ast.FuncDecl) string {
	return "func " + f.Name.Name + strings.TrimPrefix(r.print(f.Type), "func")
}

func (r *reading) print(node any) string {
	var b bytes.Buffer
	if err := printer.Fprint(&b, r.set, node); err != nil {
		return "?"
	}
	return strings.Join(strings.Fields(b.String()), " ")
}

// list are the values that a function takes or gives; a struct of its package is told field by field.
func (r *reading) list(fields *ast.FieldList) []GuideValue {
	out := []GuideValue{}
	if fields == nil {
		return out
	}
	for _, f := range fields.List {
		kind := r.print(f.Type)
		if s, known := r.fields[strings.TrimLeft(kind, "*[]")]; known {
			if says := r.says[strings.TrimLeft(kind, "*[]")]; says != "" {
				out = append(out, GuideValue{Says: says})
			}
			out = append(out, r.fieldsOf(s)...)
			continue
		}
		if kind == "error" {
			continue
		}
		names := []string{""}
		if len(f.Names) > 0 {
			names = nil
			for _, n := range f.Names {
				names = append(names, n.Name)
			}
		}
		for _, name := range names {
			out = append(out, GuideValue{Name: name, Kind: kindWords(kind), Says: r.says[strings.TrimLeft(kind, "*[]")]})
		}
	}
	return out
}

// kindWords is a type in words.
func kindWords(kind string) string {
	if rest, is := strings.CutPrefix(kind, "*"); is {
		return kindWords(rest) + ", or not known"
	}
	if rest, is := strings.CutPrefix(kind, "[]"); is {
		return "list of " + kindWords(rest)
	}
	words := map[string]string{"float64": "number", "int64": "whole number", "int": "whole number", "string": "word", "bool": "yes or no", "quantity.Interval": "interval"}
	if w, known := words[kind]; known {
		return w
	}
	if _, name, is := strings.Cut(kind, "."); is {
		return name
	}
	return kind
}

func (r *reading) fieldsOf(s *ast.StructType) (out []GuideValue) {
	for _, f := range s.Fields.List {
		says := ""
		for _, c := range []*ast.CommentGroup{f.Doc, f.Comment} {
			if c != nil {
				says = strings.TrimSpace(says + " " + paragraph(c.Text()))
			}
		}
		for _, n := range f.Names {
			name := n.Name
			if f.Tag != nil {
				if tagged, _, _ := strings.Cut(reflect.StructTag(strings.Trim(f.Tag.Value, "`")).Get("json"), ","); tagged != "" && tagged != "-" {
					name = tagged
				}
			}
			if n.IsExported() {
				kind := r.print(f.Type)
				out = append(out, GuideValue{Name: name, Kind: kindWords(kind), Says: cmp.Or(says, r.says[strings.TrimLeft(kind, "*[]")])})
			}
		}
	}
	return out
}
