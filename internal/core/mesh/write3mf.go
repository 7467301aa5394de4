package mesh

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"fmt"
	"strconv"
)

// Object is a named body of a 3MF file.
type Object struct {
	Name      string
	Triangles []Triangle
}

// Item puts an object, by its index, on the build.
type Item struct {
	Object int
	Pose   Pose
}

const (
	contentTypes = xml.Header + `<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">` +
		`<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>` +
		`<Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>`
	relationships = xml.Header + `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">` +
		`<Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>`
	modelHead = xml.Header + `<model unit="millimeter" xml:lang="en" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><resources>`
)

// Write3MF encodes objects in millimetres, each once, and a build that places
// them (3MF Core Specification 1.3). The same input gives the same bytes.
func Write3MF(objects []Object, items []Item) ([]byte, error) {
	var model bytes.Buffer
	model.WriteString(modelHead)
	for i, o := range objects {
		fmt.Fprintf(&model, `<object id="%d" type="model" name="`, i+1)
		if err := xml.EscapeText(&model, []byte(o.Name)); err != nil {
			return nil, fmt.Errorf("write the name of %q: %w", o.Name, err)
		}
		model.WriteString(`"><mesh>`)
		writeMesh(&model, o.Triangles)
		model.WriteString(`</mesh></object>`)
	}
	model.WriteString(`</resources><build>`)
	for _, item := range items {
		fmt.Fprintf(&model, `<item objectid="%d" transform="`, item.Object+1)
		for i, v := range item.Pose.transform() {
			if i > 0 {
				model.WriteByte(' ')
			}
			model.WriteString(strconv.FormatFloat(v, 'g', -1, 64))
		}
		model.WriteString(`"/>`)
	}
	model.WriteString(`</build></model>`)
	return pack(map[string][]byte{"[Content_Types].xml": []byte(contentTypes), "_rels/.rels": []byte(relationships), "3D/3dmodel.model": model.Bytes()},
		"[Content_Types].xml", "_rels/.rels", "3D/3dmodel.model")
}

func writeMesh(model *bytes.Buffer, triangles []Triangle) {
	ids := weld(triangles)
	var buffer []byte
	number := func(v float32) {
		buffer = strconv.AppendFloat(buffer[:0], float64(v), 'g', -1, 32)
		model.Write(buffer)
	}
	model.WriteString("<vertices>")
	next := uint32(0)
	for i, id := range ids {
		if id != next {
			continue
		}
		next++
		v := triangles[i/3][i%3]
		model.WriteString(`<vertex x="`)
		number(v[0])
		model.WriteString(`" y="`)
		number(v[1])
		model.WriteString(`" z="`)
		number(v[2])
		model.WriteString(`"/>`)
	}
	model.WriteString("</vertices><triangles>")
	for t := range triangles {
		a, b, c := ids[3*t], ids[3*t+1], ids[3*t+2]
		if a == b || b == c || c == a {
			continue // a line is no face, and readers refuse it
		}
		fmt.Fprintf(model, `<triangle v1="%d" v2="%d" v3="%d"/>`, a, b, c)
	}
	model.WriteString("</triangles>")
}

func pack(parts map[string][]byte, order ...string) ([]byte, error) {
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for _, name := range order {
		w, err := z.Create(name)
		if err != nil {
			return nil, fmt.Errorf("write %s: %w", name, err)
		}
		if _, err := w.Write(parts[name]); err != nil {
			return nil, fmt.Errorf("write %s: %w", name, err)
		}
	}
	if err := z.Close(); err != nil {
		return nil, fmt.Errorf("write the package: %w", err)
	}
	return out.Bytes(), nil
}
