// The keeper's chair by the stove. Centimetres.
#version 3.7;
#include "common.inc"
global_settings { assumed_gamma 1.0 max_trace_level 5 }
#include "chair.inc"

Lens(<-6,92,-265>, <3,62,0>, 32, <-16,60,-10>, 2.4, 0.6667)

light_source { <-240,150,-60> rgb <15,15.5,16.5>*1.7 area_light <0,110,0>, <70,0,90>, 3, 3 jitter fade_distance 60 fade_power 2 }
RoomLight(<0.30,0.29,0.27>, 120)
box { <-600,-100,-530>, <600,400,-520> pigment { rgb <0.28,0.25,0.22> } no_image }

object { Wall Plaster(<0.42,0.40,0.34>, 2.4) }
box { <-400,0,56>, <400,13,58.5> Painted(<0.25,0.24,0.21>, 10, 3, 0.3) }
#declare Floors = array[9] { Floor0, Floor1, Floor2, Floor3, Floor4, Floor5, Floor6, Floor7, Floor8 }
#for (K, 0, 8) object { Floors[K] Wood(<0.27,0.20,0.14>, <0.12,0.085,0.06>, 18, K+1.3) translate <30*sin(K*5),0,48-K*19.9> } #end
plane { y, -4 pigment { rgb 0.05 } }
#declare Legs = Wood(<0.17,0.105,0.06>, <0.075,0.045,0.03>, 5, 3)
object { Frame texture { Legs rotate z*90 } }
object { Slats Wood(<0.18,0.11,0.065>, <0.08,0.05,0.03>, 7, 6) }
object { Seat pigment { granite scale 2 color_map { [0.2 rgb <0.24,0.18,0.09>] [0.8 rgb <0.50,0.41,0.24>] } } normal { granite 0.5 scale 0.8 } finish { diffuse 0.8 } }
#declare Iron = texture { pigment { granite scale 6 color_map { [0.2 rgb <0.025,0.025,0.026>] [0.7 rgb <0.055,0.053,0.05>] [1 rgb <0.09,0.065,0.045>] } } normal { average normal_map { [1 granite 0.15 scale 1.2] [1 bumps 0.1 scale 5] } } finish { diffuse 0.8 specular 0.35 roughness 0.05 } }
object { Stove texture { Iron } }
object { Door texture { Iron } }
object { Pipe texture { Iron } }
sphere { <30,41,-17>, 1.3 pigment { rgb <0.45,0.33,0.15> } finish { diffuse 0.5 specular 0.8 roughness 0.02 metallic reflection { 0.25 metallic } } }
object { Kettle texture { pigment { granite scale 5 color_map { [0.2 rgb <0.035,0.055,0.10>] [0.8 rgb <0.06,0.085,0.15>] } } normal { bumps 0.05 scale 2 } finish { diffuse 0.7 specular 0.5 roughness 0.008 reflection { 0, 0.6 fresnel on } conserve_energy } } interior { ior 1.5 } }
object { Shawl texture { pigment { checker rgb <0.42,0.10,0.07> rgb <0.24,0.055,0.05> scale <3.4,3.4,50> turbulence 0.02 } normal { granite 0.5 scale 0.7 } finish { diffuse 0.75, 0.1 } } double_illuminate }
box { <12,-0.2,-42>, <74,0.6,42> pigment { granite scale 20 color_map { [0.2 rgb <0.11,0.10,0.095>] [0.8 rgb <0.21,0.20,0.19>] } } normal { granite 0.3 scale 3 } }
#declare Bark = texture { pigment { granite scale <2,6,6> color_map { [0.2 rgb <0.05,0.035,0.025>] [0.8 rgb <0.24,0.18,0.13>] } } normal { granite 0.8 scale <4,2,2> } }
object { Log0 texture { Bark } rotate y*12 translate <84,4.6,0> }
object { Log1 texture { Bark } rotate y*-6 translate <84,4.6,10> }
object { Log2 texture { Bark } rotate y*3 translate <83,12.2,5> }
