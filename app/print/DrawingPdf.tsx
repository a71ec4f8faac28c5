import type { Drawing } from "#core/procedures";
import { Circle, Line, Polyline, Svg, Text } from "@react-pdf/renderer";

const INK = "#2b2a26";
const WIDTH_PT = 110;

const PATHS = {
  faint: { stroke: "#8a8272", strokeWidth: 0.4 },
  contour: { stroke: "#8a8272", strokeWidth: 0.9 },
  own: { stroke: INK, strokeWidth: 1, strokeDasharray: "4 2" },
} as const;

/** A step's line drawing on paper. */
export function DrawingPdf({
  drawing: { width, height, marks },
  widthPt = WIDTH_PT,
}: {
  drawing: Drawing;
  widthPt?: number;
}) {
  return (
    <Svg viewBox={`0 0 ${width} ${height}`} style={{ width: widthPt, height: (widthPt * height) / width }}>
      {marks.map((mark, i) =>
        mark.kind === "text" ? (
          <Text key={i} x={mark.at[0]} y={mark.at[1]} style={{ fontSize: 10 }} textAnchor="middle" fill={INK}>
            {mark.text}
          </Text>
        ) : mark.kind === "circle" ? (
          <Circle
            key={i}
            cx={mark.at[0]}
            cy={mark.at[1]}
            r={mark.radius}
            fill={mark.isFilled ? INK : "none"}
            stroke={INK}
          />
        ) : mark.kind === "path" ? (
          <Polyline
            key={i}
            points={mark.points.map((point) => point.join(",")).join(" ")}
            fill="none"
            {...PATHS[mark.look]}
          />
        ) : (
          <Line
            key={i}
            x1={mark.from[0]}
            y1={mark.from[1]}
            x2={mark.to[0]}
            y2={mark.to[1]}
            stroke={INK}
            strokeWidth={mark.weight}
          />
        ),
      )}
    </Svg>
  );
}
