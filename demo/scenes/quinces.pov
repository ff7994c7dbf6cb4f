// The kitchen table by the window, north light. Centimetres.
#version 3.7;
#include "common.inc"
global_settings { assumed_gamma 1.0 max_trace_level 6 }
#include "quinces.inc"

#if (View = 1) Lens(<0,26,-126>, <3,8.2,0>, 30, <3,8,-6>, 1.7, 1.5) #end
#if (View = 2) Lens(<-31,19,-78>, <-14,4.6,-4>, 25, <-12,4,-12>, 1.6, 1.5) #end
#if (View = 3) Lens(<20,25,-108>, <9,11.4,0>, 29, <11,12,-4>, 1.6, 0.6667) #end

// The window, left and a little in front; the sky beyond it is cool.
light_source { <-150,70,-5> rgb <15,16.4,18>*1.0 area_light <0,85,0>, <30,0,95>, 3, 3 jitter fade_distance 45 fade_power 2 }
// The far room.
RoomLight(<0.33,0.32,0.29>, 80)

// What shines in the enamel: four panes.
#declare Card = box { <-0.5,-0.5,0>, <0.5,0.5,0.1> no_shadow no_radiosity no_image
  pigment { rgb 1 } finish { emission 13 diffuse 0 } }
#for (I, 0, 1) #for (J, 0, 2)
  object { Card scale <34,28,1> rotate y*-78 translate <-140,42+J*31,-22+I*38> }
#end #end
// The room behind the camera.
box { <-400,-100,-330>, <400,300,-320> pigment { rgb <0.32,0.29,0.25> } no_image }
box { <-400,-110,-330>, <400,-100,100> pigment { rgb <0.2,0.15,0.11> } }

object { Wall Plaster(<0.44,0.49,0.49>, 1) }

#macro Table(M, S) object { M Wood(<0.34,0.225,0.14>, <0.155,0.095,0.055>, 13, S) } #end
Table(Board0, 1.3) Table(Board1, 2.9) Table(Board2, 4.7) Table(Board3, 6.1) Table(Board4, 8.3) Table(Board5, 9.9)
Table(Rail, 12.3)

#declare Skin = texture {
  pigment { average pigment_map {
    [1.2 bozo scale 2.6 turbulence 0.4 color_map { [0.2 rgb <0.60,0.46,0.06>] [0.55 rgb <0.66,0.50,0.08>] [0.85 rgb <0.50,0.47,0.09>] }]
    [0.8 granite scale 5 color_map { [0.2 rgb <0.44,0.38,0.06>] [0.6 rgb <0.68,0.53,0.10>] [1 rgb <0.72,0.60,0.18>] }] } }
  normal { average normal_map { [1 bumps 0.10 scale 0.25] [1 granite 0.05 scale 1.2] } }
  finish { diffuse 0.78 specular 0.14 roughness 0.09 }
}
texture {
  // Freckles, and grey down where no hand has rubbed it off.
  pigment { granite scale 0.8 color_map { [0 rgbt <0.22,0.13,0.04,0.35>] [0.18 rgbt <0.28,0.18,0.05,0.65>] [0.27 rgbt 1] [1 rgbt 1] } }
  finish { diffuse 0.7 }
}
texture {
  pigment { bozo scale 2.2 turbulence 0.8 octaves 5 color_map { [0 rgbt 1] [0.56 rgbt 1] [0.72 rgbt <0.52,0.47,0.36,0.55>] [1 rgbt <0.5,0.46,0.36,0.35>] } }
  normal { granite 0.3 scale 0.4 }
  finish { diffuse 0.8 }
}
#declare Stalk = texture { pigment { granite scale 0.5 color_map { [0 rgb <0.07,0.045,0.025>] [1 rgb <0.2,0.14,0.08>] } } normal { granite 0.4 scale 0.4 } }
#macro Fruit(F, S, N) object { F texture { Skin translate N } } object { S texture { Stalk } } #end
Fruit(Fruit0, Stalk0, 3) Fruit(Fruit1, Stalk1, 17) Fruit(Fruit2, Stalk2, 41)

#macro Enamel(Tint, Bias)
  texture {
    pigment_pattern { average pigment_map {
      [1.4 granite scale 9 translate 3.2 color_map {[0 rgb 0][1 rgb 1]}]
      [1 bozo scale 2.4 translate 1.3 color_map {[0 rgb 0][1 rgb 1]}] } }
    texture_map {
      [0.21+Bias pigment { rgb <0.035,0.03,0.03> } finish { specular 0.2 roughness 0.05 }]
      [0.225+Bias pigment { granite scale 0.5 color_map { [0 rgb <0.10,0.035,0.012>] [1 rgb <0.24,0.10,0.035>] } } normal { granite 0.4 scale 0.5 }]
      [0.235+Bias
        pigment { granite scale 14 color_map { [0.2 rgb Tint*0.93] [0.7 rgb Tint] } }
        normal { bumps 0.025 scale 2.4 }
        finish { diffuse 0.82 specular 0.25 roughness 0.004 reflection { 0.0, 0.7 fresnel on } conserve_energy }]
    }
  }
#end
object { JugBody Enamel(<0.80,0.79,0.75>, 0) interior { ior 1.55 } }
object { JugHandle Enamel(<0.80,0.79,0.75>, 0.015) interior { ior 1.55 } }
object { JugRim Enamel(<0.035,0.06,0.19>, 0.06) interior { ior 1.55 } }

// Linen: two threads over and under, stripes along one side.
#declare Stripe = function(u) { select(abs(u-0.80)-0.035, 1, 0) + select(abs(u-0.885)-0.009, 1, 0) }
#declare Slub = function { pattern { granite scale 0.05 } }
#declare Weave = function(u,v) { 0.5 + 0.25*sin(u*34/0.13*2*pi + 0.9*sin(v*31))*1 + 0.25*sin(v*66/0.13*2*pi + 0.9*sin(u*17)) }
object { Cloth
  uv_mapping
  texture {
    pigment { function { min(1, Stripe(x)) }
      pigment_map {
        [0 granite scale <0.25,0.012,1> color_map { [0.1 rgb <0.50,0.47,0.40>] [0.6 rgb <0.64,0.61,0.53>] [1 rgb <0.70,0.67,0.60>] }]
        [1 granite scale <0.25,0.012,1> color_map { [0.1 rgb <0.055,0.09,0.20>] [0.7 rgb <0.10,0.15,0.30>] }]
      } }
    normal { function { Weave(x,y) } 0.35 }
    finish { diffuse 0.74, 0.14 }
  }
  double_illuminate
}
