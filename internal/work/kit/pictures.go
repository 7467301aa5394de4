package kit

import (
	"bytes"
	"context"
	"fmt"
	"image"
	pngformat "image/png"

	"ojime/internal/core/mesh"
	"ojime/internal/work/task"
)

// PNG encodes a picture.
func PNG(picture image.Image) ([]byte, error) {
	var out bytes.Buffer
	if err := pngformat.Encode(&out, picture); err != nil {
		return nil, fmt.Errorf("draw the picture: %w", err)
	}
	return out.Bytes(), nil
}

// PiecePicture is a still view of a piece as PNG, or its plan or front.
func (w *Tasks) PiecePicture(ctx context.Context, pieceID string, size int64, view string) ([]byte, error) {
	draw := mesh.Picture
	switch view {
	case "plan":
		draw = mesh.Plan
	case "front":
		draw = mesh.Front
	}
	p, err := task.ReadOne(ctx, w.Base, pieceID, pieceEntry.Get)
	if err != nil {
		return nil, err
	}
	return task.Heavily(ctx, w.Base, nil, func() ([]byte, error) {
		m, err := w.readMesh(p)
		if err != nil {
			return nil, err
		}
		return PNG(draw(m.Triangles, int(size)))
	})
}
